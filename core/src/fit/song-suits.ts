import type { Seconds } from "../time/index.ts";
import type { Pace } from "../values/index.ts";
import { LONGEST_SLOT_SECONDS, SHORTEST_SLOT_SECONDS } from "./pace.ts";

/** What is known of a song before it is in a show. */
interface SongForSlides {
  readonly durationSeconds: Seconds;
  /** Felt beats a minute; null without a steady beat. */
  readonly tempoBpm: number | null;
}

/** Bars are not known from length and tempo alone; common practice. */
const DEFAULT_BEATS_PER_BAR = 4;
const DEFAULT_BARS_PER_PHRASE = 4;

/**
 * How many pictures a song has room for at a pace, at most and at least: with a fixed pace both are
 * the same. Others, and a song without a steady beat, take any number between the shortest and the
 * longest slot. An estimate from length and tempo: fades and the ending are not looked at.
 */
export function roomForSlides(song: SongForSlides, pace: Pace): { readonly fewest: number; readonly most: number } {
  const { durationSeconds, tempoBpm } = song;
  const asked = askedSeconds(pace, tempoBpm);
  if (asked === null) {
    return {
      fewest: Math.max(1, Math.ceil(durationSeconds / LONGEST_SLOT_SECONDS)),
      most: Math.max(1, Math.floor(durationSeconds / SHORTEST_SLOT_SECONDS)),
    };
  }
  const slots = Math.max(1, Math.round(durationSeconds / asked));
  return { fewest: slots, most: slots };
}

/** What a pace asks for in each slot; null where that cannot be told from length and tempo. */
function askedSeconds(pace: Pace, tempoBpm: number | null): Seconds | null {
  if (pace.kind === "seconds") return pace.seconds;
  if (tempoBpm === null) return null;
  const beat = 60 / tempoBpm;
  if (pace.kind === "beats") return pace.count * beat;
  if (pace.kind === "bars") return pace.count * DEFAULT_BEATS_PER_BAR * beat;
  return pace.kind === "phrases" ? pace.count * DEFAULT_BARS_PER_PHRASE * DEFAULT_BEATS_PER_BAR * beat : null;
}

/**
 * Pictures too many (positive) or too few (negative) for a song at a pace; 0 where they have room
 * and fill it.
 */
export function slidesTooMany(song: SongForSlides, pace: Pace, slideCount: number): number {
  const { fewest, most } = roomForSlides(song, pace);
  if (slideCount > most) return slideCount - most;
  return slideCount < fewest ? slideCount - fewest : 0;
}

import { assertNever } from "../errors/index.ts";
import { firstIndex } from "../numeric/index.ts";
import type { Pace } from "../values/index.ts";
import { type Landing, type MusicForFit, nearestIndex } from "./landings.ts";

/**
 * Where nobody asks for a pace, pictures are left out before they would be seen for less. Common
 * practice: under two seconds a row of pictures is not looked at any more.
 */
export const SHORTEST_SLOT_SECONDS = 2;
/** A single one may be seen for less, a bar at 160 beats a minute, if others are seen for longer. */
export const SHORTEST_FREE_SECONDS = 0.75 * SHORTEST_SLOT_SECONDS;
/** Common practice: 5 to 8 seconds for a title; a still beyond ten seconds feels forgotten. */
export const LONGEST_SLOT_SECONDS = 10;
/** What locks may leave: common practice, about a second each in a dance run still reads as pictures. */
export const SHORTEST_BETWEEN_LOCKS_SECONDS = 1;
/** Beat of music that has none. */
const EVEN_BEAT_SECONDS = 0.5;
/** Bars in a phrase where the music does not say. */
const DEFAULT_PHRASE_BARS = 4;
/** How much longer a slot is where the music is quietest, and how much shorter where it is loudest. */
const ENERGY_FACTOR = 1.6;
/** The same where nobody asks for it, gently: by the mean loudness of whole sections. */
const SECTION_ENERGY_FACTOR = 1.6;
/** Sections whose loudness (-1 to 1) differs by less are all one. */
const HEARD_DIFFERENCE = 0.5;
const LOUDNESS_STEP_SECONDS = 0.5;
/** A picture chosen for every beat may be shorter than the shortest else, but not shorter than this share of what was asked for. */
const PACED_MINIMUM = 0.6;
const PACED_MAXIMUM = 2;
/** Nobody sees a picture that is shorter than this. Common practice. */
const SEEN_SECONDS = 0.2;

/** What a pace wishes of the slots of a passage. */
export interface PaceWish {
  /** Natural logarithm of the wished seconds where a slot begins on landing i: index i + 1; index 0 for the film's start. */
  readonly logWish: Float64Array;
  /** The wish over the whole music, in seconds: what a slide asks for before it has a place. Null: whatever is left. */
  readonly askedSeconds: number | null;
  readonly minimumSeconds: number;
  readonly maximumSeconds: number;
  /** 1 for landings that this pace takes; null: all. */
  readonly allowed: Uint8Array | null;
  /** Whether slots have natural lengths in beats (metre.ts), because no other length is asked for. */
  readonly keepsMetre: boolean;
}

/** The music of a film, and where it can be landed on. */
export interface MusicOffer {
  readonly music: MusicForFit;
  readonly landings: readonly Landing[];
  readonly endSeconds: number;
}

/**
 * What a pace wishes, everywhere in the music. `shareSeconds` is what each slide gets of the time that no other pace asks for: it is the wish of
 * "auto", and of "music" at its middle loudness. A pace that has nothing to hold on to (markers where there are none) is "auto".
 * O(landings).
 */
export function paceWish(pace: Pace, offer: MusicOffer, shareSeconds: number): PaceWish {
  const { music, landings, endSeconds } = offer;
  const places = [0, ...landings.map((landing) => landing.seconds)];
  const along = (secondsAt: (seconds: number) => number): Float64Array =>
    Float64Array.from(places, (seconds) => Math.log(secondsAt(seconds)));
  const paced = (secondsAt: (seconds: number) => number): PaceWish => {
    const logWish = along(secondsAt);
    const lengths = [...logWish].map(Math.exp).sort((a, b) => a - b);
    const asked = lengths[lengths.length >> 1]!;
    return {
      logWish,
      askedSeconds: asked,
      minimumSeconds: Math.max(SEEN_SECONDS, Math.min(SHORTEST_SLOT_SECONDS, PACED_MINIMUM * lengths[0]!)),
      maximumSeconds: Math.max(LONGEST_SLOT_SECONDS, PACED_MAXIMUM * lengths.at(-1)!),
      allowed: null,
      keepsMetre: false,
    };
  };
  const share = (secondsAt: (seconds: number) => number): PaceWish => ({
    logWish: along(secondsAt),
    askedSeconds: null,
    minimumSeconds: SHORTEST_FREE_SECONDS,
    maximumSeconds: LONGEST_SLOT_SECONDS,
    allowed: null,
    keepsMetre: music.beats.length > 0,
  });
  const beat = beatLength(music);
  const loudness = sectionLoudness(music, endSeconds);
  switch (pace.kind) {
    case "auto":
      return share((seconds) => shareSeconds * SECTION_ENERGY_FACTOR ** -loudness(seconds));
    case "music":
      return share((seconds) => shareSeconds * ENERGY_FACTOR ** -music.loudnessAt(seconds));
    case "beats":
      return paced((seconds) => pace.count * beat(seconds));
    case "bars":
      return paced((seconds) => pace.count * music.beatsPerBar * beat(seconds));
    case "phrases":
      return paced((seconds) => pace.count * phraseBars(music) * music.beatsPerBar * beat(seconds));
    case "seconds":
      return paced(() => pace.seconds);
    case "accents":
      return (
        placed((landing) => landing.accent > 0 || landing.kind === "accent", landings) ??
        paceWish({ kind: "auto" }, offer, shareSeconds)
      );
    case "markers": {
      const isOne = ({ markerOrigin }: Landing): boolean =>
        markerOrigin !== null && (pace.origin === "any" || markerOrigin === pace.origin);
      return placed(isOne, landings) ?? paceWish({ kind: "auto" }, offer, shareSeconds);
    }
    default:
      return assertNever(pace);
  }
}

/** One slot from each such place to the next; null where there are none. Places too near to each other are skipped by the solver. */
function placed(isOne: (landing: Landing) => boolean, landings: readonly Landing[]): PaceWish | null {
  const allowed = Uint8Array.from(landings, (landing) => (isOne(landing) ? 1 : 0));
  const chosen = landings.filter((_, i) => allowed[i] === 1);
  if (chosen.length === 0) return null;
  const toNext = (seconds: number): number => {
    const next = chosen.find((landing) => landing.seconds >= seconds + SEEN_SECONDS);
    return next ? next.seconds - seconds : LONGEST_SLOT_SECONDS;
  };
  const lengths = [0, ...landings.map((landing) => landing.seconds)].map(toNext);
  const gaps = chosen.slice(1).map((landing, i) => landing.seconds - chosen[i]!.seconds);
  const minimumSeconds = Math.min(SHORTEST_SLOT_SECONDS, Math.max(SEEN_SECONDS, PACED_MINIMUM * Math.min(1, ...gaps)));
  const usable = gaps.filter((gap) => gap >= minimumSeconds).length + 1;
  return {
    logWish: Float64Array.from(lengths, Math.log),
    // So many slots have room in the music as it has places, and one before them.
    askedSeconds: landings.at(-1)!.seconds / (usable + 1),
    minimumSeconds,
    maximumSeconds: Math.max(LONGEST_SLOT_SECONDS, PACED_MAXIMUM * Math.max(0, ...gaps)),
    allowed,
    keepsMetre: false,
  };
}

/** How loud the section of a moment is, -1 to 1 of the song; 0 everywhere where sections hardly differ. */
function sectionLoudness({ sections, loudnessAt }: MusicForFit, endSeconds: number): (seconds: number) => number {
  const starts = [0, ...sections.map(({ startSeconds }) => startSeconds).filter((at) => at > 0)];
  const levels = starts.map((from, i) => {
    const to = Math.min(endSeconds, starts[i + 1] ?? endSeconds);
    const count = Math.max(1, Math.floor((to - from) / LOUDNESS_STEP_SECONDS));
    let sum = 0;
    for (let k = 0; k < count; k++) sum += loudnessAt(from + (k + 0.5) * LOUDNESS_STEP_SECONDS);
    return sum / count;
  });
  if (Math.max(...levels) - Math.min(...levels) < HEARD_DIFFERENCE) return () => 0;
  return (seconds) => levels[Math.max(0, firstIndex(starts.length, (i) => starts[i]! > seconds + 0.01) - 1)]!;
}

/** Seconds of a beat around a moment: the mean of the four distances around it, so that one late beat does not count. */
function beatLength({ beats }: MusicForFit): (seconds: number) => number {
  if (beats.length < 2) return () => EVEN_BEAT_SECONDS;
  return (seconds) => {
    const near = nearestIndex(beats, seconds);
    const first = Math.max(0, Math.min(near - 2, beats.length - 5));
    const last = Math.min(beats.length - 1, first + 4);
    return (beats[last]!.seconds - beats[first]!.seconds) / (last - first);
  };
}

/** The usual number of bars between phrase starts. */
function phraseBars({ phrases, beats, beatsPerBar }: MusicForFit): number {
  const gaps = phrases.slice(1).map((seconds, i) => {
    const between = beats.filter((beat) => beat.seconds >= phrases[i]! - 0.05 && beat.seconds < seconds - 0.05);
    return Math.round(between.length / beatsPerBar);
  });
  const usual = gaps.filter((gap) => gap > 0).sort((a, b) => a - b);
  return usual[usual.length >> 1] ?? DEFAULT_PHRASE_BARS;
}

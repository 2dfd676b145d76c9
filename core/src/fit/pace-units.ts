import { itemAt, lastOf } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import type { Pace } from "../values/index.ts";
import type { MusicForFit } from "./landings.ts";

/** Bars in a phrase where the music does not say. */
const DEFAULT_PHRASE_BARS = 4;
/** Beat of music that has none. */
export const EVEN_BEAT_SECONDS = 0.5;

/** How long the units of a pace are in a piece of music. */
export interface PaceUnits {
  readonly beatSeconds: Seconds;
  readonly beatsPerBar: number;
  readonly barsPerPhrase: number;
}

/** The units of a piece of music, by its mean beat and its usual phrase. O(beats * phrases). */
export function paceUnits(music: Pick<MusicForFit, "beats" | "beatsPerBar" | "phrases">): PaceUnits {
  const { beats, beatsPerBar } = music;
  return { beatSeconds: meanBeatSeconds(beats), beatsPerBar, barsPerPhrase: usualPhraseBars(music) };
}

/** Seconds of a beat, from the first to the last; half a second where there are fewer than two. */
export const meanBeatSeconds = (beats: MusicForFit["beats"]): Seconds =>
  beats.length < 2 ? EVEN_BEAT_SECONDS : (lastOf(beats).seconds - itemAt(beats, 0).seconds) / (beats.length - 1);

/** The usual number of bars between phrase starts. */
export function usualPhraseBars({
  phrases,
  beats,
  beatsPerBar,
}: Pick<MusicForFit, "beats" | "beatsPerBar" | "phrases">): number {
  const gaps = phrases.slice(1).map((seconds, i) => {
    const between = beats.filter((beat) => beat.seconds >= itemAt(phrases, i) - 0.05 && beat.seconds < seconds - 0.05);
    return Math.round(between.length / beatsPerBar);
  });
  const usual = gaps.filter((gap) => gap > 0).sort((a, b) => a - b);
  return usual[usual.length >> 1] ?? DEFAULT_PHRASE_BARS;
}

/** The paces that count something. */
type CountedPace = Extract<Pace, { readonly count: number } | { readonly seconds: Seconds }>;

/**
 * What is asked for where another kind of pace went before: a bar, a phrase, or 4 seconds (common
 * practice).
 */
const FIRST_SECONDS = 4;

/**
 * A pace in another unit, as near as whole beats, bars and phrases come: 8 beats in 4/4 are 2 bars.
 * Seconds are rounded to tenths. A pace that counts nothing becomes one bar, one phrase or 4
 * seconds.
 */
export function paceInUnit(pace: Pace | null, kind: CountedPace["kind"], units: PaceUnits): CountedPace {
  const barSeconds = units.beatsPerBar * units.beatSeconds;
  const unitSeconds = {
    beats: units.beatSeconds,
    bars: barSeconds,
    phrases: units.barsPerPhrase * barSeconds,
    seconds: 1,
  };
  const first = { beats: barSeconds, bars: barSeconds, phrases: unitSeconds.phrases, seconds: FIRST_SECONDS };
  let wanted = first[kind];
  if (pace && "seconds" in pace) wanted = pace.seconds;
  if (pace && "count" in pace) wanted = pace.count * unitSeconds[pace.kind];
  if (kind === "seconds") return { kind, seconds: Math.min(600, Math.max(0.2, Math.round(10 * wanted) / 10)) };
  return { kind, count: Math.min(1000, Math.max(1, Math.round(wanted / unitSeconds[kind]))) };
}

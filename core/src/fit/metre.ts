import type { Landing } from "./landings.ts";

/**
 * What a slot costs that has no natural number of beats: far more than the 0.48 that a wish half
 * way between two natural lengths costs. So three beats are not laid against four.
 */
export const OFF_METRE_COST = 4;
/** The same for three or five whole bars: such a slot ends on a bar, but in no pattern. */
export const ODD_BARS_COST = 2;
/** What it costs to change from one natural length to another, by what begins at the change. */
export const CHANGE_COST = { elsewhere: 2, phrase: 0.3, section: 0 };

/** No pattern is heard in slots of more beats. */
const MOST_BEATS = 64;
/** Bars of fewer beats have no parts but halves and single beats. */
const FEWEST_BEATS_IN_TWO_PARTS = 5;

/**
 * The lengths in beats that are heard as even, rising: a beat, the natural parts of a bar, a bar,
 * and bars doubled again and again. In 4/4 1, 2, 4, 8, 16, 32, 64; in 3/4 1, 3, 6, 12 ...; in 5/4
 * 1, 2, 3, 5, 10 ... The doubling is that of a metrical grid: each level has every second place of
 * the level below (Lerdahl and Jackendoff 1983, from memory).
 */
export function naturalLengths(beatsPerBar: number): readonly number[] {
  const lengths = new Set([1]);
  for (let beats = beatsPerBar; beats <= MOST_BEATS; beats *= 2) lengths.add(beats);
  let part = beatsPerBar;
  for (; part % 2 === 0; part /= 2) lengths.add(part / 2);
  if (part >= FEWEST_BEATS_IN_TWO_PARTS) lengths.add(Math.floor(part / 2)).add(Math.ceil(part / 2));
  return [...lengths].sort((a, b) => a - b);
}

/** What a slot costs that has so many beats, which are no natural length. */
export const unevenCost = (beats: number, beatsPerBar: number): number =>
  beats % beatsPerBar === 0 ? ODD_BARS_COST : OFF_METRE_COST;

/** What it costs to change to another natural length on a landing. */
export function changeCost({ kind }: Pick<Landing, "kind">): number {
  if (kind === "section" || kind === "marker") return CHANGE_COST.section;
  return kind === "phrase" ? CHANGE_COST.phrase : CHANGE_COST.elsewhere;
}

import { HOP_SECONDS, ONSET_RANGES, type OnsetStrength } from "../signal/index.ts";

/**
 * Ranges of onset strength (first inclusive, end exclusive) that make a pulse: kick drum and bass,
 * the middle, cymbals.
 */
const BANDS = [
  [0, 2],
  [3, 9],
  [10, 12],
] as const;
/** An onset is measured against the mean of so much time to each side. */
const AROUND_HOPS = Math.round(1.5 / HOP_SECONDS);
/** Share of the song's mean that is added, so that near silence is not full of onsets. */
const FLOOR = 0.05;
/** One onset counts at most as so many times the mean around it. */
const HIGHEST = 8;

/**
 * How much begins at each hop against what begins around it: loud and quiet passages, drums and
 * strings count alike. 0 and up, with a mean near 1 for each of three bands. O(hops).
 */
export function onsetCurve({ ranges }: OnsetStrength): Float32Array {
  const curve = new Float32Array(ranges.length / ONSET_RANGES);
  for (const [first, end] of BANDS) addBand(curve, ranges, first, end);
  return curve;
}

function addBand(curve: Float32Array, ranges: Float32Array, first: number, end: number): void {
  const hopCount = curve.length;
  const sums = new Float64Array(hopCount + 1);
  for (let hop = 0; hop < hopCount; hop++) {
    let sum = 0;
    for (let range = first; range < end; range++) sum += ranges[hop * ONSET_RANGES + range]!;
    sums[hop + 1] = sums[hop]! + sum;
  }
  const floor = (FLOOR * sums[hopCount]!) / hopCount + 1e-9;
  for (let hop = 0; hop < hopCount; hop++) {
    const from = Math.max(0, hop - AROUND_HOPS);
    const to = Math.min(hopCount, hop + AROUND_HOPS + 1);
    const around = (sums[to]! - sums[from]!) / (to - from);
    curve[hop]! += Math.min(HIGHEST, (sums[hop + 1]! - sums[hop]!) / (around + floor));
  }
}

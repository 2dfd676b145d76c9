import type { LandingCandidate } from "./landing-candidates.ts";

/** Cost of a slot whose length differs from the wished one by a factor of e (2.7), against 1 for landing on nothing. */
const LENGTH_WEIGHT = 4;

/**
 * Lays `count` slots between two fixed instants: chooses `count - 1` of the candidates so that the sum over the slots of
 *
 *     4 * ln(length / wished)^2  +  (1 - strength of the landing at its start)
 *
 * is smallest, with no slot shorter than `shortestSeconds`. Exact, by dynamic programming over (slot, candidate); equal costs go
 * to the earlier landing. `candidates` are in rising order and lie inside (from, to). Returns null where it cannot be done.
 * Cost: O(count * candidates * candidates within reach), where reach ends at four times the wished length.
 */
export function layRun(
  candidates: readonly LandingCandidate[],
  fromSeconds: number,
  toSeconds: number,
  count: number,
  shortestSeconds: number,
): LandingCandidate[] | null {
  if (count === 1) return toSeconds - fromSeconds >= shortestSeconds - TOLERANCE_SECONDS ? [] : null;
  if (candidates.length < count - 1) return null;
  const wished = (toSeconds - fromSeconds) / count;
  const times = Float64Array.from(candidates, (candidate) => candidate.seconds);
  const lengthCost = (length: number): number => {
    if (length < shortestSeconds - TOLERANCE_SECONDS) return Infinity;
    const ratio = Math.log(length / wished);
    return LENGTH_WEIGHT * ratio * ratio;
  };
  const reach = Math.max(REACH_FACTOR * wished, widestGap(times, fromSeconds, toSeconds));
  const between = slotCosts(times, reach, lengthCost);
  const landingCost = candidates.map((candidate) => 1 - candidate.strength);

  // cost[j]: cheapest way to have the current landing on candidate j.
  let cost = Float64Array.from(times, (time, j) => lengthCost(time - fromSeconds) + landingCost[j]!);
  const cameFrom: Int32Array[] = [];
  for (let landing = 2; landing < count; landing++) {
    const next = new Float64Array(times.length).fill(Infinity);
    const back = new Int32Array(times.length).fill(-1);
    // Each landing leaves one candidate at least for every other before and behind it.
    const lastPlace = times.length - (count - 1 - landing);
    for (let j = landing - 1; j < lastPlace; j++) {
      const first = between.first[j]!;
      const offset = between.offset[j]! - first;
      let best = Infinity;
      let from = -1;
      for (let i = first; i < j; i++) {
        const candidate = cost[i]! + between.cost[offset + i]!;
        // Only a cheaper way replaces an earlier one, so of equal ways the earlier landing stays.
        if (candidate < best) {
          best = candidate;
          from = i;
        }
      }
      next[j] = best + landingCost[j]!;
      back[j] = from;
    }
    cost = next;
    cameFrom.push(back);
  }
  let last = -1;
  let best = Infinity;
  for (let j = 0; j < times.length; j++) {
    const total = cost[j]! + lengthCost(toSeconds - times[j]!);
    if (total < best) [best, last] = [total, j];
  }
  if (last < 0) return null;
  const chosen: LandingCandidate[] = [];
  for (let landing = count - 1; landing >= 1; landing--) {
    chosen.unshift(candidates[last]!);
    if (landing > 1) last = cameFrom[landing - 2]![last]!;
  }
  return chosen;
}

/** Slots further from the wished length than this factor are not tried, unless a gap in the beats asks for it. */
const REACH_FACTOR = 4;
/**
 * Beats are heard within some milliseconds, so two of them at 120 a minute may lie a little under a second apart: a slot short of the
 * minimum by less than this, under a frame at any rate, is not short.
 */
export const TOLERANCE_SECONDS = 0.012;

/** The cost of every slot between two candidates within reach, once for all landings: row j begins at offset[j] with candidate first[j]. */
function slotCosts(
  times: Float64Array,
  reach: number,
  lengthCost: (length: number) => number,
): { first: Int32Array; offset: Int32Array; cost: Float64Array } {
  const first = new Int32Array(times.length);
  const offset = new Int32Array(times.length + 1);
  let from = 0;
  for (let j = 0; j < times.length; j++) {
    while (times[j]! - times[from]! > reach) from++;
    first[j] = from;
    offset[j + 1] = offset[j]! + j - from;
  }
  const cost = new Float64Array(offset[times.length]!);
  for (let j = 0; j < times.length; j++) {
    for (let i = first[j]!; i < j; i++) cost[offset[j]! + i - first[j]!] = lengthCost(times[j]! - times[i]!);
  }
  return { first, offset, cost };
}

function widestGap(times: Float64Array, from: number, to: number): number {
  let widest = 0;
  let before = from;
  for (const time of [...times, to]) {
    widest = Math.max(widest, time - before);
    before = time;
  }
  return widest * 2;
}

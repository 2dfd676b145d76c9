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
 * Cost: O(count * candidates * candidates within reach), where reach ends at six times the wished length.
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
  const landingCost = candidates.map((candidate) => 1 - candidate.strength);

  // cost[j]: cheapest way to have the current landing on candidate j.
  let cost = Float64Array.from(times, (time, j) => lengthCost(time - fromSeconds) + landingCost[j]!);
  const cameFrom: Int32Array[] = [];
  for (let landing = 2; landing < count; landing++) {
    const next = new Float64Array(times.length).fill(Infinity);
    const back = new Int32Array(times.length).fill(-1);
    for (let j = landing - 1; j < times.length; j++) {
      let best = Infinity;
      for (let i = j - 1; i >= landing - 2 && times[j]! - times[i]! <= reach; i--) {
        const candidate = cost[i]! + lengthCost(times[j]! - times[i]!);
        // From late to early with <=, so that of equal ways the earlier landing stays.
        if (candidate <= best && candidate < Infinity) {
          best = candidate;
          back[j] = i;
        }
      }
      next[j] = best + landingCost[j]!;
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
const REACH_FACTOR = 6;
/** Beat times carry rounding; a slot short of the minimum by less than this is not short. */
export const TOLERANCE_SECONDS = 1e-6;

function widestGap(times: Float64Array, from: number, to: number): number {
  let widest = 0;
  let before = from;
  for (const time of [...times, to]) {
    widest = Math.max(widest, time - before);
    before = time;
  }
  return widest * 2;
}

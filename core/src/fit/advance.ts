import type { NaturalLengths } from "./length-table.ts";

/**
 * The hot paths of the solver: plain numbers and arrays only, in functions of their own, because
 * they are compiled best that way. Layers here are stretches of the places that the music offers:
 * index i of a layer is place `first + i`.
 */

/** All that is the same for every place of a step from slot to slot. */
export interface Step {
  readonly times: Float64Array;
  /** Of the beginning of the next slot, place by place. */
  readonly landings: Float64Array;
  /** What it costs to begin it on any place but the planned one. */
  readonly leaving: number;
  readonly planned: number;
  readonly minimum: number;
  readonly maximum: number;
  readonly first: number;
  readonly nextFirst: number;
  readonly nextCount: number;
}

/**
 * What it costs to begin on each place of a layer, and after which run (Front in solve-order.ts).
 */
export interface Begun {
  readonly cost: Float64Array;
  readonly run: Uint8Array;
}

/**
 * Where a step writes: from `offset` on, one number a place of the next layer. What is cheaper
 * there stays.
 */
export interface Target {
  readonly costs: Float64Array;
  /** Index in the layer before, times the number of runs, plus the run there. */
  readonly back: Int32Array;
  readonly offset: number;
  readonly runs: number;
}

/**
 * The cheapest way from a layer to each place of the next, by any length. O(places within reach).
 */
export function advanceFreely(
  { times, landings, leaving, planned, minimum, maximum, first, nextFirst, nextCount }: Step,
  { cost, run }: Begun,
  table: Float64Array,
  offsets: Int32Array,
  { costs, back, offset, runs }: Target,
): void {
  const count = cost.length;
  let low = 0;
  let high = 0;
  for (let j = 0; j < nextCount; j++) {
    const place = nextFirst + j;
    const to = times[place]!;
    while (low < count && to - times[first + low]! > maximum) low++;
    while (high < count && to - times[first + high]! >= minimum) high++;
    const row = offsets[place]! + first;
    let best = Infinity;
    let from = -1;
    for (let i = low; i < high; i++) {
      const total = cost[i]! + table[row + i]!;
      // Only a cheaper way replaces an earlier one, so of equal ways the earlier landing stays.
      if (total < best) {
        best = total;
        from = i;
      }
    }
    const total = best + landings[place]! + (place === planned ? 0 : leaving);
    if (total >= costs[offset + j]!) continue;
    costs[offset + j] = total;
    back[offset + j] = from * runs + run[from]!;
  }
}

/**
 * The way from a layer to each place of the next by one natural length, which is one way at most.
 * O(places).
 */
export function advanceNaturally(
  { times, landings, leaving, planned, minimum, maximum, first, nextFirst, nextCount }: Step,
  { cost, run }: Begun,
  { sources, costs: lengthCosts }: NaturalLengths,
  { costs, back, offset, runs }: Target,
): void {
  const end = first + cost.length;
  for (let j = 0; j < nextCount; j++) {
    const place = nextFirst + j;
    const source = sources[place]!;
    if (source < first || source >= end) continue;
    const length = times[place]! - times[source]!;
    if (length < minimum || length > maximum) continue;
    const landing = landings[place]! + (place === planned ? 0 : leaving);
    const total = cost[source - first]! + lengthCosts[place]! + landing;
    if (total >= costs[offset + j]!) continue;
    costs[offset + j] = total;
    back[offset + j] = (source - first) * runs + run[source - first]!;
  }
}

/**
 * What it costs to begin a slot of one natural length on each place: nothing more where the slot
 * before has the same or none, else what the change costs there. `costs` has a row of `count` for
 * each run; `length` is the row of this length, the last row that of none.
 */
export function beginNaturally(
  costs: Float64Array,
  count: number,
  length: number,
  { cost: best, run: bestRun }: Begun,
  changes: Float64Array,
): Begun {
  const none = costs.length - count;
  const cost = costs.slice(length * count, (length + 1) * count);
  const run = new Uint8Array(count).fill(length);
  for (let i = 0; i < count; i++) {
    if (costs[none + i]! < cost[i]!) {
      cost[i] = costs[none + i]!;
      run[i] = none / count;
    }
    const changed = best[i]! + changes[i]!;
    if (changed < cost[i]!) {
      cost[i] = changed;
      run[i] = bestRun[i]!;
    }
  }
  return { cost, run };
}

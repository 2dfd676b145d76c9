import { itemAt, lastOf, present } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { advanceFreely, advanceNaturally, type Begun, beginNaturally, type Step, type Target } from "./advance.ts";
import type { Landing } from "./landings.ts";
import { LengthTable } from "./length-table.ts";
import { CHANGE_COST } from "./metre.ts";
import { findsAccent } from "./moment.ts";
import {
  LEAVING_COST,
  LENGTH_WEIGHT,
  landingCost,
  longestSeconds,
  MOMENT_ACCENT,
  MOMENT_WEIGHT,
  type OrderProblem,
  type OrderSolution,
  type SlotWish,
  shortestSeconds,
  TOLERANCE_SECONDS,
} from "./order-problem.ts";
import { firstAtOrAfter, Places } from "./places.ts";
import { fixedBeginnings, isPossible } from "./reach.ts";

/** Maxima are let go by doubling up to this factor before a film counts as impossible. */
const LARGEST_FACTOR = 2 ** 20;

/**
 * The cheapest way to lay the slots, one after the other, on landings: the sum over the slots of
 *
 *     4 * ln(length / wished)^2
 *     + weight * (1 - strength of the landing)
 *     + 2 * (1 - section) for the first of a passage
 *     + 8 for a moment that no accent can be brought under
 *     + what metre.ts asks of those that keep to it
 *
 * and the cost of the end; the last slot ends with the film and not with the metre. Minima, locks
 * and the material of clips hold. Maxima hold unless nothing else is possible; then all are doubled
 * until something is. Exact, by dynamic programming over (slot, landing, natural length of the slot
 * before). Of equal ways the earlier landing stays. Null where the locks, minima and clips leave no
 * way. Cost: O(slots * (landings within reach of each other + landings * natural lengths)), some
 * nanoseconds each.
 */
export function solveOrder(problem: OrderProblem): OrderSolution | null {
  // Where even endless slots leave no way, the maxima are not to blame.
  if (!isPossible(problem)) return null;
  for (let factor = 1; factor <= LARGEST_FACTOR; factor *= 2) {
    const solution = new OrderSolver(problem, factor).solve();
    if (solution) return solution;
  }
  return null;
}

/** The places that a slot may begin on: numbers into `Places.times`, in order of time. */
type Layer = Int32Array;

/**
 * What it costs to begin a slot on each place of a layer, after each natural length of the slot
 * before: `costs[run * places + i]`. The last run stands for a slot before that has none.
 */
interface Front {
  readonly layer: Layer;
  readonly costs: Float64Array;
  /**
   * Where each came from that has a finite cost: index in the layer before, times the number of
   * runs, plus the run there.
   */
  readonly back: Int32Array;
}

class OrderSolver {
  readonly #problem: OrderProblem;
  readonly #factor: number;
  readonly #longestSeconds: Seconds;
  readonly #places: Places;
  readonly #earliest: Float64Array;
  readonly #latest: Float64Array;
  readonly #accents: Float64Array;
  /** All places but those of locked lengths: layers without conditions are stretches of it. */
  readonly #basePlaces: Int32Array;
  /** How many runs there are: one for each natural length, and one for none. */
  readonly #runs: number;
  #lengths: LengthTable | null = null;
  readonly #landingCosts = new Map<string, Float64Array>();
  readonly #fixed: readonly (number | null)[];

  constructor(problem: OrderProblem, factor: number) {
    this.#problem = problem;
    this.#factor = factor;
    const shortest = problem.slots.reduce((least, slot) => Math.min(least, shortestSeconds(slot)), Infinity);
    this.#longestSeconds = problem.slots.reduce((most, slot) => Math.max(most, this.#maximum(slot)), 0);
    this.#places = new Places(problem, {
      toleranceSeconds: TOLERANCE_SECONDS,
      shortest,
      longest: this.#longestSeconds,
    });
    this.#runs = this.#places.naturalLengths.length + 1;
    this.#earliest = new Float64Array(problem.slots.length + 1);
    this.#latest = new Float64Array(problem.slots.length + 1);
    this.#accents = Float64Array.from(
      problem.landings.filter(({ accent }) => accent >= MOMENT_ACCENT),
      ({ seconds }) => seconds,
    );
    this.#fixed = fixedBeginnings(problem);
    this.#basePlaces = Int32Array.from(this.#places.times.keys());
  }

  get #lengthTable(): LengthTable {
    this.#lengths ??= new LengthTable(this.#places, this.#longestSeconds);
    return this.#lengths;
  }

  solve(): OrderSolution | null {
    const { slots } = this.#problem;
    if (!this.#bound()) return null;
    const costs = new Float64Array(this.#runs).fill(Infinity);
    costs[this.#runs - 1] = 0;
    let front: Front = { layer: Int32Array.of(0), costs, back: new Int32Array(this.#runs) };
    const fronts = [front];
    for (let k = 0; k + 1 < slots.length; k++) {
      const best = this.#bestRuns(front);
      const layer = this.#layerAfter(k, front.layer, best.cost);
      if (layer.length === 0) return null;
      front = this.#advance(k, front, best, layer);
      fronts.push(front);
    }
    return this.#ending(fronts);
  }

  /** The cheapest end, and the way to it. */
  #ending(fronts: readonly Front[]): OrderSolution | null {
    const { ends } = this.#problem;
    const lastSlot = fronts.length - 1;
    const last = itemAt(fronts, lastSlot);
    const reached = this.#bestRuns(last);
    let best = Infinity;
    let bestFrom = -1;
    let bestEnd = -1;
    for (const [e, end] of ends.entries()) {
      last.layer.forEach((place, i) => {
        const total = reached.cost[i]! + end.cost + this.#slotCost(lastSlot, place, end.seconds);
        if (total < best) {
          best = total;
          bestFrom = i;
          bestEnd = e;
        }
      });
    }
    if (bestFrom < 0) return null;
    const chosen: Landing[] = [];
    let [i, run] = [bestFrom, reached.run[bestFrom]!];
    for (let k = lastSlot; k > 0; k--) {
      const { layer, back } = itemAt(fronts, k);
      chosen.unshift(present(itemAt(this.#places.landings, layer[i]!)));
      const code = back[run * layer.length + i]!;
      [i, run] = [Math.floor(code / this.#runs), code % this.#runs];
    }
    return { landings: chosen, endSeconds: itemAt(ends, bestEnd).seconds, cost: best, maximumFactor: this.#factor };
  }

  /** The cheapest of the runs for each place of a layer. */
  #bestRuns({ layer, costs }: Front): Begun {
    const count = layer.length;
    const none = this.#runs - 1;
    const cost = costs.slice(none * count);
    const run = new Uint8Array(count).fill(none);
    for (let r = 0; r < none; r++) {
      for (let i = 0; i < count; i++) {
        if (costs[r * count + i]! < cost[i]!) {
          cost[i] = costs[r * count + i]!;
          run[i] = r;
        }
      }
    }
    return { cost, run };
  }

  /** Between which moments each slot can begin at all; false where some cannot. */
  #bound(): boolean {
    const { slots, ends, landings } = this.#problem;
    const [earliest, latest] = [this.#earliest, this.#latest];
    earliest[0] = 0;
    for (const [k, slot] of slots.entries()) {
      if (slot.landingLock !== null)
        earliest[k] = Math.max(itemAt(earliest, k), itemAt(landings, slot.landingLock).seconds);
      earliest[k + 1] = itemAt(earliest, k) + shortestSeconds(slot);
    }
    latest[slots.length] = lastOf(ends).seconds;
    for (let k = slots.length - 1; k >= 0; k--) {
      const lock = itemAt(slots, k).landingLock;
      latest[k] = itemAt(latest, k + 1) - shortestSeconds(itemAt(slots, k));
      if (lock !== null) latest[k] = Math.min(itemAt(latest, k), itemAt(landings, lock).seconds);
    }
    // Maxima bound from the other side.
    let reach = 0;
    for (let k = 0; k <= slots.length; k++) {
      latest[k] = Math.min(itemAt(latest, k), reach);
      reach = itemAt(latest, k) + (k < slots.length ? this.#maximum(itemAt(slots, k)) : 0);
    }
    let need = itemAt(ends, 0).seconds;
    for (let k = slots.length; k >= 0; k--) {
      earliest[k] = Math.max(itemAt(earliest, k), need);
      need = itemAt(earliest, k) - (k > 0 ? this.#maximum(itemAt(slots, k - 1)) : 0);
    }
    return earliest.every((seconds, k) => seconds <= itemAt(latest, k) + 2 * TOLERANCE_SECONDS);
  }

  #maximum(slot: SlotWish): number {
    return longestSeconds(slot, this.#factor);
  }

  /** Where slot k + 1 may begin, given where slot k does. */
  #layerAfter(k: number, before: Layer, cost: Float64Array): Layer {
    const { slots } = this.#problem;
    const slot = itemAt(slots, k);
    const next = itemAt(slots, k + 1);
    const [from, to] = [this.#earliest[k + 1]! - TOLERANCE_SECONDS, this.#latest[k + 1]! + TOLERANCE_SECONDS];
    const isInside = (place: number): boolean => this.#places.times[place]! >= from && this.#places.times[place]! <= to;
    if (next.landingLock !== null) return Int32Array.of(next.landingLock + 1).filter(isInside);
    if (slot.lengthLockSeconds !== null) {
      const places: number[] = [];
      before.forEach((place, i) => {
        if (cost[i]! < Infinity)
          places.push(this.#places.at(this.#places.times[place]! + present(slot.lengthLockSeconds)));
      });
      return Int32Array.from(new Set(places))
        .filter(isInside)
        .sort((a, b) => this.#places.times[a]! - this.#places.times[b]!);
    }
    const fixed = this.#fixed[k + 1]!;
    if (fixed !== null) return Int32Array.of(this.#places.at(fixed)).filter(isInside);
    const first = Math.max(1, firstAtOrAfter(this.#places.baseTimes, from));
    const end = Math.max(first, firstAtOrAfter(this.#places.baseTimes, to + 1e-12));
    const places = this.#basePlaces.subarray(first, end);
    const { allowed } = next;
    return allowed ? places.filter((place) => allowed[place - 1] === 1) : places;
  }

  /**
   * What slot k costs from a place to a moment; Infinity where it may not be so long. The metre is
   * not in it.
   */
  #slotCost(k: number, place: number, toSeconds: Seconds): number {
    const slot = itemAt(this.#problem.slots, k);
    const from = this.#places.times[place]!;
    const length = toSeconds - from;
    if (length < shortestSeconds(slot) || length > this.#maximum(slot)) return Infinity;
    const moment = slot.moment && !findsAccent(slot.moment, from, toSeconds, this.#accents) ? MOMENT_WEIGHT : 0;
    if (slot.lengthLockSeconds !== null) return moment;
    const off = Math.log(length) - slot.logWish[this.#places.wishPlace[place]!]!;
    return LENGTH_WEIGHT * off * off + moment;
  }

  /**
   * The cheapest way to each place of the next layer, after each natural length that slot k can
   * have.
   */
  #advance(k: number, front: Front, best: Begun, nextLayer: Layer): Front {
    const runs = this.#runs;
    const none = runs - 1;
    const count = nextLayer.length;
    const costs = new Float64Array(runs * count).fill(Infinity);
    const back = new Int32Array(runs * count);
    const row = (run: number): Target => ({ costs, back, offset: run * count, runs });
    const ways = this.#waysOf(k, front.layer, nextLayer);
    ways.freely(best, row(none));
    const { rhythm } = itemAt(this.#problem.slots, k);
    const size = front.layer.length;
    if (rhythm === "kept") {
      const changes = this.#changesOn(front.layer);
      for (let length = 0; length < none; length++)
        ways.naturally(beginNaturally(front.costs, size, length, best, changes), length, row(length));
    } else if (rhythm === "passed") {
      for (let run = 0; run <= none; run++) {
        const cost = front.costs.subarray(run * size, (run + 1) * size);
        const begun = { cost, run: new Uint8Array(size).fill(run) };
        for (let length = 0; length < none; length++) ways.naturally(begun, length, row(run));
      }
    }
    return { layer: nextLayer, costs, back };
  }

  #changesOn(layer: Layer): Float64Array {
    const { changes } = this.#places;
    if (this.#isStretch(layer)) return changes.subarray(layer[0], lastOf(layer) + 1);
    return Float64Array.from(layer, (place) => changes[place] ?? CHANGE_COST.elsewhere);
  }

  /**
   * How slot k gets from the places of one layer to those of the next: by any length, or by one
   * natural length.
   */
  #waysOf(k: number, layer: Layer, nextLayer: Layer): Ways {
    const slot = itemAt(this.#problem.slots, k);
    const isPlain = slot.lengthLockSeconds === null && slot.moment === null;
    if (!isPlain || !this.#isStretch(layer) || !this.#isStretch(nextLayer)) return this.#slowWays(k, layer, nextLayer);
    const lengths = this.#lengthTable;
    const table = slot.rhythm === "free" ? lengths.free(slot.logWish) : lengths.uneven(slot.logWish);
    if (!table) return this.#slowWays(k, layer, nextLayer);
    const next = itemAt(this.#problem.slots, k + 1);
    const step: Step = {
      times: this.#places.baseTimes,
      landings: this.#landingCostsOf(next),
      leaving: next.plannedLanding === null ? 0 : LEAVING_COST,
      planned: (next.plannedLanding ?? -1) + 1,
      minimum: shortestSeconds(slot),
      maximum: this.#maximum(slot),
      first: layer[0]!,
      nextFirst: nextLayer[0]!,
      nextCount: nextLayer.length,
    };
    return {
      freely: (begun, target) => advanceFreely(step, begun, table, lengths.offsets, target),
      naturally: (begun, length, target) =>
        advanceNaturally(step, begun, itemAt(lengths.natural(slot.logWish), length), target),
    };
  }

  /** The same for layers of any places, and for slots with conditions of their own. */
  #slowWays(k: number, layer: Layer, nextLayer: Layer): Ways {
    const slot = itemAt(this.#problem.slots, k);
    const nextSlot = itemAt(this.#problem.slots, k + 1);
    const [minimum, maximum] = [shortestSeconds(slot), this.#maximum(slot)];
    const times = Float64Array.from(layer, (place) => this.#places.times[place]!);
    const metre = (from: number, to: number): number =>
      slot.rhythm === "free" ? 0 : this.#places.unevenCost(from, to);
    const reach = (
      begun: Begun,
      target: Target,
      sourcesOf: (place: number) => Iterable<number>,
      more: typeof metre,
    ): void =>
      nextLayer.forEach((place, j) => {
        const landing = landingCost(nextSlot, this.#places.landings[place]!) + leavingCost(nextSlot, place - 1);
        for (const i of sourcesOf(place)) {
          const length = this.#slotCost(k, layer[i]!, this.#places.times[place]!) + more(layer[i]!, place);
          const total = begun.cost[i]! + length + landing;
          if (total >= target.costs[target.offset + j]!) continue;
          target.costs[target.offset + j] = total;
          target.back[target.offset + j] = i * target.runs + begun.run[i]!;
        }
      });
    const within = (place: number): number[] => {
      const to = this.#places.times[place]!;
      const found: number[] = [];
      for (let i = firstAtOrAfter(times, to - maximum - 1e-9); i < layer.length && to - times[i]! >= minimum; i++)
        found.push(i);
      return found;
    };
    const oneBefore = (place: number, length: number): number[] => {
      const source = this.#places.before(place, this.#places.naturalLengths[length]!);
      const i = source < 0 ? -1 : layer.indexOf(source);
      return i < 0 ? [] : [i];
    };
    return {
      freely: (begun, target) => reach(begun, target, within, metre),
      naturally: (begun, length, target) =>
        reach(
          begun,
          target,
          (place) => oneBefore(place, length),
          () => 0,
        ),
    };
  }

  /** Whether a layer is one stretch of the places that the music offers. */
  #isStretch(layer: Layer): boolean {
    const [first, last] = [layer[0]!, lastOf(layer)];
    return last < this.#places.baseCount && last - first === layer.length - 1;
  }

  /**
   * What it costs a slot to begin on each place, leaving the plan not counted; slots of one kind
   * share theirs.
   */
  #landingCostsOf(slot: SlotWish): Float64Array {
    const kind = `${slot.landingWeight} ${slot.startsPassage} ${slot.landingLock !== null} ${slot.metreOnly}`;
    let costs = this.#landingCosts.get(kind);
    if (!costs) {
      const { landings } = this.#problem;
      costs = new Float64Array(landings.length + 1);
      for (const [i, landing] of landings.entries()) costs[i + 1] = landingCost(slot, landing);
      this.#landingCosts.set(kind, costs);
    }
    return costs;
  }
}

/** What it costs a slot not to begin where the plan without locks has it. */
const leavingCost = ({ plannedLanding }: SlotWish, landing: number): number =>
  plannedLanding === null || plannedLanding === landing ? 0 : LEAVING_COST;

/** Ways from layer to layer, given what it costs to begin on each place of the first. */
interface Ways {
  /** By any length; with a slot that keeps to the metre, by any that is not natural. */
  readonly freely: (begun: Begun, target: Target) => void;
  /** By the natural length of an index. */
  readonly naturally: (begun: Begun, length: number, target: Target) => void;
}

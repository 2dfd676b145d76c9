import { firstIndex } from "../numeric/index.ts";
import { type Landing, lengthLanding, nearestIndex } from "./landings.ts";
import { findsAccent, type Moment } from "./moment.ts";

/** One slot of a film whose slides and their order are decided. */
export interface SlotWish {
  /** Wished seconds where the slot begins on landing i: index i + 1, index 0 for the film's start. Natural logarithms. */
  readonly logWish: Float64Array;
  readonly minimumSeconds: number;
  readonly maximumSeconds: number;
  /** Of a clip: never let go with the maxima. Infinity for pictures. */
  readonly materialSeconds: number;
  /** The slot is exactly this long. */
  readonly lengthLockSeconds: number | null;
  /** Index of the only landing that it may begin on. */
  readonly landingLock: number | null;
  /** 1 for each landing that it may begin on; null: any. */
  readonly allowed: Uint8Array | null;
  /** What it costs to land on nothing: 1, more where a strong place matters. */
  readonly landingWeight: number;
  /** Whether a passage begins with it. */
  readonly startsPassage: boolean;
  readonly moment: Moment | null;
}

export interface OrderProblem {
  readonly landings: readonly Landing[];
  readonly slots: readonly SlotWish[];
  /** Where the film may end, rising, with what each costs. */
  readonly ends: readonly { readonly seconds: number; readonly cost: number }[];
}

export interface OrderSolution {
  /** Where each slot but the first begins. */
  readonly landings: readonly Landing[];
  readonly endSeconds: number;
  readonly cost: number;
  /** By how much the longest slots had to be let go beyond their maximum: 1 is not at all, 2 twice as long, and so on. */
  readonly maximumFactor: number;
}

/** Weights of docs/fit.md, without unit. */
export const LENGTH_WEIGHT = 4;
const PASSAGE_WEIGHT = 2;
export const MOMENT_WEIGHT = 2;
/** Heroes want strong places twice as much as others. */
export const HERO_LANDING_WEIGHT = 2;
/** An accent of at least this strength is one that a moment may fall on. */
export const MOMENT_ACCENT = 0.5;
/**
 * Beats are heard within some milliseconds: a slot short of its minimum, or off its locked length's landing, by less than this (under a
 * frame at any rate) is not.
 */
const TOLERANCE_SECONDS = 0.012;
/** Maxima are let go by doubling up to this factor before a film counts as impossible. */
const LARGEST_FACTOR = 1024;
/** What it costs to begin where a person put another slide by hand: more than any film should. */
const FOREIGN_COST = 50;

/**
 * The cheapest way to lay the slots, one after the other, on landings: the sum over the slots of
 *
 *     4 * ln(length / wished)^2  +  weight * (1 - strength of the landing)  +  2 * (1 - section) for the first of a passage
 *     +  2 for a moment that no accent can be brought under
 *
 * and the cost of the end. Minima, locks and the material of clips hold; maxima hold unless nothing else is possible, then all are doubled until something is. Exact, by
 * dynamic programming over (slot, landing); of equal ways the earlier landing stays. Null where the locks, minima and clips leave no way.
 * Cost: O(slots * landings within reach of each other), a few nanoseconds each.
 */
export function solveOrder(problem: OrderProblem): OrderSolution | null {
  for (let factor = 1; factor <= LARGEST_FACTOR; factor *= 2) {
    const solver = new OrderSolver(problem, factor);
    // Where even endless slots leave no way, the maxima are not to blame.
    if (!solver.hasWayWithoutMaxima()) return null;
    const solution = solver.solve();
    if (solution) return solution;
  }
  return null;
}

/** Whether the locks and minima leave any way at all: as solveOrder would say, without looking for the cheapest. O(slots log landings). */
export const isPossible = (problem: OrderProblem): boolean => new OrderSolver(problem, 1).hasWayWithoutMaxima();

/** 1 for a section, half for a phrase: how well a passage begins there. */
const passageFit = (landing: Landing): number =>
  landing.kind === "section" || landing.kind === "marker" ? 1 : landing.kind === "phrase" ? 0.5 : 0;

/** What a slot's beginning costs. */
export function landingCost(
  slot: Pick<SlotWish, "landingWeight" | "startsPassage" | "landingLock">,
  landing: Landing,
): number {
  if (landing.kind === "free" && slot.landingLock === null) return FOREIGN_COST;
  const passage = slot.startsPassage ? PASSAGE_WEIGHT * (1 - passageFit(landing)) : 0;
  return slot.landingWeight * (1 - landing.strength) + passage;
}

/**
 * The places that a slot may begin on: numbers into `times`, in order of time. 0 is the film's start, i + 1 landing i; higher ones were
 * put there by locked lengths.
 */
type Layer = Int32Array;

class OrderSolver {
  readonly #problem: OrderProblem;
  readonly #factor: number;
  readonly #times: number[];
  readonly #landings: (Landing | null)[];
  /** The place whose wish counts, for those that locked lengths put there. */
  readonly #wishPlace: number[];
  readonly #baseCount: number;
  readonly #earliest: Float64Array;
  readonly #latest: Float64Array;
  readonly #accents: Float64Array;
  #lengths: LengthTable | null = null;
  readonly #baseTimes: Float64Array;
  /** All places but those of locked lengths: layers without conditions are stretches of it. */
  readonly #basePlaces: Int32Array;
  readonly #landingCosts = new Map<string, Float64Array>();

  constructor(problem: OrderProblem, factor: number) {
    this.#problem = problem;
    this.#factor = factor;
    this.#times = [0, ...problem.landings.map((landing) => landing.seconds)];
    this.#landings = [null, ...problem.landings];
    this.#wishPlace = this.#times.map((_, i) => i);
    this.#baseCount = this.#times.length;
    this.#earliest = new Float64Array(problem.slots.length + 1);
    this.#latest = new Float64Array(problem.slots.length + 1);
    this.#accents = Float64Array.from(
      problem.landings.filter(({ accent }) => accent >= MOMENT_ACCENT),
      ({ seconds }) => seconds,
    );
    this.#baseTimes = Float64Array.from(this.#times);
    this.#basePlaces = Int32Array.from(this.#times.keys());
  }

  get #lengthTable(): LengthTable {
    this.#lengths ??= new LengthTable(
      this.#baseTimes,
      this.#problem.slots.reduce((reach, slot) => Math.max(reach, this.#maximum(slot)), 0),
    );
    return this.#lengths;
  }

  /** Whether minima and locks alone leave a way: each slot as early as it can be. O(slots log landings). */
  hasWayWithoutMaxima(): boolean {
    const { slots, ends } = this.#problem;
    let at = 0;
    for (const [k, slot] of slots.entries()) {
      const next = slots[k + 1];
      const length = slot.lengthLockSeconds;
      const earliest = at + this.#minimum(slot);
      const fixed = next ? this.#fixedPlace(k + 1) : ends.at(-1)!.seconds;
      if (fixed !== null && (fixed < earliest || (next && length !== null && fixed > at + length + TOLERANCE_SECONDS)))
        return false;
      if (fixed !== null) at = fixed;
      else if (length !== null) at += length;
      else {
        const place = this.#firstAllowed(next!, earliest);
        if (place < 0) return false;
        at = this.#baseTimes[place]!;
      }
    }
    return true;
  }

  /** Where slot k must begin, by a lock of its landing or of lengths; null where it is free. */
  #fixedPlace(k: number): number | null {
    const lock = this.#problem.slots[k]!.landingLock;
    return lock === null ? this.#fixedBeginning(k) : this.#problem.landings[lock]!.seconds;
  }

  #firstAllowed({ allowed }: SlotWish, earliest: number): number {
    let place = Math.max(1, firstAtOrAfter(this.#baseTimes, earliest));
    while (allowed && place < this.#baseTimes.length && allowed[place - 1] !== 1) place++;
    return place < this.#baseTimes.length ? place : -1;
  }

  solve(): OrderSolution | null {
    const { slots, ends } = this.#problem;
    if (!this.#bound()) return null;
    const layers: Layer[] = [Int32Array.of(0)];
    const cameFrom: Int32Array[] = [];
    let cost: Float64Array = Float64Array.of(0);
    for (let k = 0; k + 1 < slots.length; k++) {
      const layer = this.#layerAfter(k, layers[k]!, cost);
      if (layer.length === 0) return null;
      const next = this.#advance(k, layers[k]!, cost, layer);
      layers.push(layer);
      cameFrom.push(next.back);
      cost = next.cost;
    }
    const lastSlot = slots.length - 1;
    let best = Infinity;
    let bestFrom = -1;
    let bestEnd = -1;
    for (const [e, end] of ends.entries()) {
      const layer = layers[lastSlot]!;
      for (let i = 0; i < layer.length; i++) {
        const total = cost[i]! + end.cost + this.#slotCost(lastSlot, layer[i]!, end.seconds);
        if (total < best) {
          best = total;
          bestFrom = i;
          bestEnd = e;
        }
      }
    }
    if (bestFrom < 0) return null;
    const chosen: Landing[] = [];
    for (let k = lastSlot, i = bestFrom; k > 0; k--) {
      chosen.unshift(this.#landings[layers[k]![i]!]!);
      i = cameFrom[k - 1]![i]!;
    }
    return { landings: chosen, endSeconds: ends[bestEnd]!.seconds, cost: best, maximumFactor: this.#factor };
  }

  /** Between which moments each slot can begin at all; false where some cannot. */
  #bound(): boolean {
    const { slots, ends, landings } = this.#problem;
    const [earliest, latest] = [this.#earliest, this.#latest];
    earliest[0] = 0;
    for (const [k, slot] of slots.entries()) {
      if (slot.landingLock !== null) earliest[k] = Math.max(earliest[k]!, landings[slot.landingLock]!.seconds);
      earliest[k + 1] = earliest[k]! + this.#minimum(slot);
    }
    latest[slots.length] = ends.at(-1)!.seconds;
    for (let k = slots.length - 1; k >= 0; k--) {
      const lock = slots[k]!.landingLock;
      latest[k] = latest[k + 1]! - this.#minimum(slots[k]!);
      if (lock !== null) latest[k] = Math.min(latest[k]!, landings[lock]!.seconds);
    }
    // Maxima bound from the other side.
    let reach = 0;
    for (let k = 0; k <= slots.length; k++) {
      latest[k] = Math.min(latest[k]!, reach);
      reach = latest[k]! + (k < slots.length ? this.#maximum(slots[k]!) : 0);
    }
    let need = ends[0]!.seconds;
    for (let k = slots.length; k >= 0; k--) {
      earliest[k] = Math.max(earliest[k]!, need);
      need = earliest[k]! - (k > 0 ? this.#maximum(slots[k - 1]!) : 0);
    }
    return earliest.every((seconds, k) => seconds <= latest[k]! + 2 * TOLERANCE_SECONDS);
  }

  #minimum(slot: SlotWish): number {
    return (slot.lengthLockSeconds ?? slot.minimumSeconds) - TOLERANCE_SECONDS;
  }

  #maximum(slot: SlotWish): number {
    const most = Math.min(slot.maximumSeconds * this.#factor, slot.materialSeconds);
    return (slot.lengthLockSeconds ?? most) + TOLERANCE_SECONDS;
  }

  /** Where slot k + 1 may begin, given where slot k does. */
  #layerAfter(k: number, before: Layer, cost: Float64Array): Layer {
    const { slots } = this.#problem;
    const slot = slots[k]!;
    const next = slots[k + 1]!;
    const [from, to] = [this.#earliest[k + 1]! - TOLERANCE_SECONDS, this.#latest[k + 1]! + TOLERANCE_SECONDS];
    const isInside = (place: number): boolean => this.#times[place]! >= from && this.#times[place]! <= to;
    if (next.landingLock !== null) return Int32Array.of(next.landingLock + 1).filter(isInside);
    if (slot.lengthLockSeconds !== null) {
      const places: number[] = [];
      before.forEach((place, i) => {
        if (cost[i]! < Infinity) places.push(this.#placeAt(this.#times[place]! + slot.lengthLockSeconds!));
      });
      return Int32Array.from(new Set(places))
        .filter(isInside)
        .sort((a, b) => this.#times[a]! - this.#times[b]!);
    }
    const fixed = this.#fixedBeginning(k + 1);
    if (fixed !== null) return Int32Array.of(this.#placeAt(fixed)).filter(isInside);
    const first = Math.max(1, firstAtOrAfter(this.#baseTimes, from));
    const end = Math.max(first, firstAtOrAfter(this.#baseTimes, to + 1e-12));
    const places = this.#basePlaces.subarray(first, end);
    const { allowed } = next;
    return allowed ? places.filter((place) => allowed[place - 1] === 1) : places;
  }

  /** A locked slot whose end is given begins where its length says, on a beat or not; null for all others. */
  #fixedBeginning(k: number): number | null {
    const { slots, ends } = this.#problem;
    const length = slots[k]!.lengthLockSeconds;
    if (length === null) return null;
    const next = slots[k + 1];
    if (!next) return ends.length === 1 ? ends[0]!.seconds - length : null;
    const end = this.#fixedPlace(k + 1);
    return end === null ? null : end - length;
  }

  /** The landing at a moment, or a new place of its own. */
  #placeAt(seconds: number): number {
    const near = nearestIndex(this.#problem.landings, seconds);
    if (near >= 0 && Math.abs(this.#problem.landings[near]!.seconds - seconds) <= TOLERANCE_SECONDS) return near + 1;
    this.#times.push(seconds);
    this.#landings.push(lengthLanding(seconds));
    this.#wishPlace.push(Math.max(0, near + 1));
    return this.#times.length - 1;
  }

  /** What slot k costs from a place to a moment; Infinity where it may not be so long. */
  #slotCost(k: number, place: number, toSeconds: number): number {
    const slot = this.#problem.slots[k]!;
    const from = this.#times[place]!;
    const length = toSeconds - from;
    if (length < this.#minimum(slot) || length > this.#maximum(slot)) return Infinity;
    const moment = slot.moment && !findsAccent(slot.moment, from, toSeconds, this.#accents) ? MOMENT_WEIGHT : 0;
    if (slot.lengthLockSeconds !== null) return moment;
    const off = Math.log(length) - slot.logWish[this.#wishPlace[place]!]!;
    return LENGTH_WEIGHT * off * off + moment;
  }

  /** The cheapest way to each place of the next layer. */
  #advance(k: number, layer: Layer, cost: Float64Array, nextLayer: Layer): { cost: Float64Array; back: Int32Array } {
    const slot = this.#problem.slots[k]!;
    const nextSlot = this.#problem.slots[k + 1]!;
    const [minimum, maximum] = [this.#minimum(slot), this.#maximum(slot)];
    const isPlain = slot.lengthLockSeconds === null && slot.moment === null;
    const table =
      isPlain && this.#isStretch(layer) && this.#isStretch(nextLayer) ? this.#lengthTable.costsOf(slot.logWish) : null;
    if (table) {
      const landings = this.#landingCostsOf(nextSlot);
      const step = { times: this.#baseTimes, offsets: this.#lengthTable.offsets, table, landings, minimum, maximum };
      return advanceStretch(step, layer[0]!, cost, nextLayer[0]!, nextLayer.length);
    }
    const next = new Float64Array(nextLayer.length).fill(Infinity);
    const back = new Int32Array(nextLayer.length).fill(-1);
    const times = Float64Array.from(layer, (place) => this.#times[place]!);
    for (let j = 0; j < nextLayer.length; j++) {
      const place = nextLayer[j]!;
      const to = this.#times[place]!;
      let best = Infinity;
      for (let i = firstAtOrAfter(times, to - maximum - 1e-9); i < layer.length && to - times[i]! >= minimum; i++) {
        const total = cost[i]! + this.#slotCost(k, layer[i]!, to);
        if (total >= best) continue;
        best = total;
        back[j] = i;
      }
      next[j] = best + landingCost(nextSlot, this.#landings[place]!);
    }
    return { cost: next, back };
  }

  /** Whether a layer is one stretch of the places that the music offers. */
  #isStretch(layer: Layer): boolean {
    const [first, last] = [layer[0]!, layer.at(-1)!];
    return last < this.#baseCount && last - first === layer.length - 1;
  }

  /** What it costs a slot to begin on each place; slots of one kind share theirs. */
  #landingCostsOf(slot: SlotWish): Float64Array {
    const kind = `${slot.landingWeight} ${slot.startsPassage} ${slot.landingLock !== null}`;
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

/** All that is the same for every place of a step from slot to slot. */
interface Step {
  readonly times: Float64Array;
  readonly offsets: Int32Array;
  /** Costs of lengths, and of landings. */
  readonly table: Float64Array;
  readonly landings: Float64Array;
  readonly minimum: number;
  readonly maximum: number;
}

/**
 * The cheapest way from a stretch of places to each of another: the hot path, with plain numbers and arrays only, and a function of its own because
 * it is compiled best that way. `cost[i]` is of place `first + i`.
 */
function advanceStretch(
  { times, offsets, table, landings, minimum, maximum }: Step,
  first: number,
  cost: Float64Array,
  nextFirst: number,
  nextCount: number,
): { cost: Float64Array; back: Int32Array } {
  const next = new Float64Array(nextCount);
  const back = new Int32Array(nextCount);
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
    next[j] = best + landings[place]!;
    back[j] = from;
  }
  return { cost: next, back };
}

/** The first of rising times that is not before a moment. */
function firstAtOrAfter(times: Float64Array, seconds: number): number {
  return firstIndex(times.length, (index) => times[index]! >= seconds);
}

/** More pairs of places than this are not kept: 32 MB a table. */
const MOST_PAIRS = 4_000_000;

/** What lengths between places within reach of each other cost, made once for every kind of wish, because slots of one kind are many. */
class LengthTable {
  readonly #times: Float64Array;
  readonly #firsts: Int32Array;
  /** What to add to a place's number to find the cost of the length from there to this place. */
  readonly offsets: Int32Array;
  readonly #pairs: number;
  readonly #costs = new Map<Float64Array, Float64Array>();

  constructor(times: Float64Array, reachSeconds: number) {
    this.#times = times;
    this.#firsts = new Int32Array(times.length);
    this.offsets = new Int32Array(times.length);
    let pairs = 0;
    let first = 0;
    for (let j = 0; j < times.length; j++) {
      while (times[j]! - times[first]! > reachSeconds) first++;
      this.#firsts[j] = first;
      this.offsets[j] = pairs - first;
      pairs += j - first;
    }
    this.#pairs = pairs;
  }

  /** Costs of all pairs under a wish; null where they are too many to keep. */
  costsOf(logWish: Float64Array): Float64Array | null {
    if (this.#pairs > MOST_PAIRS) return null;
    const known = this.#costs.get(logWish);
    if (known) return known;
    const times = this.#times;
    const costs = new Float64Array(this.#pairs);
    let at = 0;
    for (let j = 0; j < times.length; j++) {
      for (let i = this.#firsts[j]!; i < j; i++) {
        const off = Math.log(times[j]! - times[i]!) - logWish[i]!;
        costs[at++] = LENGTH_WEIGHT * off * off;
      }
    }
    this.#costs.set(logWish, costs);
    return costs;
  }
}

import type { Seconds } from "../time/index.ts";
import { LENGTH_WEIGHT } from "./order-problem.ts";
import type { Places } from "./places.ts";

/** More pairs of places than this are not kept: 32 MB a table. */
const MOST_PAIRS = 4_000_000;

/**
 * What natural lengths cost, for one length in beats: where a slot that ends on a place began, and
 * its cost.
 */
export interface NaturalLengths {
  /** Place by place; -1 where no slot of this length ends. */
  readonly sources: Int32Array;
  readonly costs: Float64Array;
}

/**
 * What lengths between places within reach of each other cost, made once for every kind of wish,
 * because slots of one kind are many.
 */
export class LengthTable {
  readonly #places: Places;
  readonly #firsts: Int32Array;
  /** What to add to a place's number to find the cost of the length from there to this place. */
  readonly offsets: Int32Array;
  readonly #pairs: number;
  readonly #free = new Map<Float64Array, Float64Array>();
  readonly #uneven = new Map<Float64Array, Float64Array>();
  readonly #natural = new Map<Float64Array, readonly NaturalLengths[]>();

  constructor(places: Places, reachSeconds: Seconds) {
    this.#places = places;
    const times = places.baseTimes;
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

  /**
   * Costs of all pairs under a wish, of slots that do not mind the metre; null where they are too
   * many to keep.
   */
  free(logWish: Float64Array): Float64Array | null {
    return this.#pairCosts(logWish, this.#free, () => 0);
  }

  /** The same for slots that do; natural lengths cost Infinity here. */
  uneven(logWish: Float64Array): Float64Array | null {
    return this.#pairCosts(logWish, this.#uneven, (from, to) => this.#places.unevenCost(from, to));
  }

  #pairCosts(
    logWish: Float64Array,
    known: Map<Float64Array, Float64Array>,
    more: (from: number, to: number) => number,
  ): Float64Array | null {
    if (this.#pairs > MOST_PAIRS) return null;
    const made = known.get(logWish);
    if (made) return made;
    const times = this.#places.baseTimes;
    const costs = new Float64Array(this.#pairs);
    let at = 0;
    for (let j = 0; j < times.length; j++) {
      for (let i = this.#firsts[j]!; i < j; i++) {
        const off = Math.log(times[j]! - times[i]!) - logWish[i]!;
        costs[at++] = LENGTH_WEIGHT * off * off + more(i, j);
      }
    }
    known.set(logWish, costs);
    return costs;
  }

  /**
   * Costs of slots of each natural length under a wish, in the order of `places.naturalLengths`.
   */
  natural(logWish: Float64Array): readonly NaturalLengths[] {
    const known = this.#natural.get(logWish);
    if (known) return known;
    const times = this.#places.baseTimes;
    const made = this.#places.naturalLengths.map((beats): NaturalLengths => {
      const sources = Int32Array.from(times, (_, place) => this.#places.before(place, beats));
      const costs = Float64Array.from(sources, (source, place) => {
        if (source < 0) return Infinity;
        const off = Math.log(times[place]! - times[source]!) - logWish[source]!;
        return LENGTH_WEIGHT * off * off;
      });
      return { sources, costs };
    });
    this.#natural.set(logWish, made);
    return made;
  }
}

import { firstIndex } from "../numeric/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { type Landing, lengthLanding, nearestIndex } from "./landings.ts";
import { changeCost, naturalLengths, OFF_METRE_COST, unevenCost } from "./metre.ts";
import type { OrderProblem } from "./order-problem.ts";

/**
 * How long the shortest and the longest slot may stand, and how near two moments are one place, in
 * seconds.
 */
interface Bounds {
  readonly shortest: number;
  readonly longest: number;
  readonly toleranceSeconds: Seconds;
}

/**
 * The places that slots may begin on, as numbers in order of time: 0 is the film's start, i + 1
 * landing i. Higher numbers were put there by locked lengths.
 */
export class Places {
  /** Of all places, those of locked lengths too. */
  readonly times: number[];
  readonly landings: (Landing | null)[];
  /** The place whose wish counts, for those that locked lengths put there. */
  readonly wishPlace: number[];
  /** Of the places that the music offers, rising. */
  readonly baseTimes: Float64Array;
  /** The lengths in beats that are natural here; none where no slot keeps to the metre. */
  readonly naturalLengths: readonly number[];
  /**
   * What it costs that a slot of another natural length begins on a place that the music offers.
   */
  readonly changes: Float64Array;
  readonly #offered: readonly Landing[];
  /** The beat of each place that the music offers; -1 off the beat. */
  readonly #beats: Int32Array;
  readonly #placeOfBeat: Int32Array;
  /** What a slot costs that has so many beats. */
  readonly #unevenByBeats: Float64Array;
  readonly #toleranceSeconds: Seconds;

  constructor({ landings, slots, beatsPerBar, firstBeat }: OrderProblem, bounds: Bounds) {
    this.#offered = landings;
    this.#toleranceSeconds = bounds.toleranceSeconds;
    this.times = [0, ...landings.map(({ seconds }) => seconds)];
    this.landings = [null, ...landings];
    this.wishPlace = this.times.map((_, place) => place);
    this.baseTimes = Float64Array.from(this.times);
    this.changes = Float64Array.from(this.landings, (landing) => (landing ? changeCost(landing) : 0));
    this.#beats = Int32Array.from([firstBeat, ...landings.map(({ beatIndex }) => beatIndex)], (beat) => beat ?? -1);
    this.#placeOfBeat = new Int32Array(Math.max(0, ...this.#beats) + 1).fill(-1);
    this.#beats.forEach((beat, place) => {
      if (beat >= 0) this.#placeOfBeat[beat] = place;
    });
    const isMet = slots.some(({ rhythm }) => rhythm !== "free");
    this.naturalLengths = (isMet ? naturalLengths(beatsPerBar) : []).filter((beats) => this.#occurs(beats, bounds));
    this.#unevenByBeats = Float64Array.from({ length: this.#placeOfBeat.length }, (_, beats) =>
      this.naturalLengths.includes(beats) ? Infinity : unevenCost(beats, beatsPerBar),
    );
  }

  /** How many places the music offers, with the film's start. */
  get baseCount(): number {
    return this.baseTimes.length;
  }

  /** Whether any slot of so many beats may stand as long. */
  #occurs(beats: number, { shortest, longest }: Bounds): boolean {
    return this.baseTimes.some((to, place) => {
      const from = this.before(place, beats);
      const length = from < 0 ? 0 : to - this.baseTimes[from]!;
      return from >= 0 && length >= shortest && length <= longest;
    });
  }

  /** The place so many beats before another; -1 where there is none, or either is off the beat. */
  before(place: number, beats: number): number {
    const beat = this.#beatOf(place);
    return beat < beats ? -1 : (this.#placeOfBeat[beat - beats] ?? -1);
  }

  /**
   * What the metre asks of a slot between two places that keeps to it. Infinity for natural
   * lengths, which are reckoned with the length before them. Nothing where a person or silence put
   * a place off the beat.
   */
  unevenCost(from: number, to: number): number {
    const [first, last] = [this.#beatOf(from), this.#beatOf(to)];
    if (first < 0 || last < 0) return this.#isAccent(from) || this.#isAccent(to) ? OFF_METRE_COST : 0;
    return this.#unevenByBeats[last - first]!;
  }

  #beatOf(place: number): number {
    return place < this.baseCount ? this.#beats[place]! : -1;
  }

  #isAccent(place: number): boolean {
    return this.landings[place]?.kind === "accent";
  }

  /**
   * The place of a moment: a landing that is there within the tolerance, or a new one of its own.
   */
  at(seconds: Seconds): number {
    const near = nearestIndex(this.#offered, seconds);
    if (near >= 0 && Math.abs(itemAt(this.#offered, near).seconds - seconds) <= this.#toleranceSeconds) return near + 1;
    this.times.push(seconds);
    this.landings.push(lengthLanding(seconds));
    this.wishPlace.push(Math.max(0, near + 1));
    return this.times.length - 1;
  }
}

/** The first of rising times that is not before a moment. */
export function firstAtOrAfter(times: Float64Array, seconds: Seconds): number {
  return firstIndex(times.length, (index) => times[index]! >= seconds);
}

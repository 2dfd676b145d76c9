import { itemAt } from "@humming-tide/core/presence";

/**
 * A seeded generator (mulberry32, Tommy Ettinger's public-domain mixer): the demo is the same on
 * every machine.
 */
export class Random {
  #state: number;

  constructor(seed: number) {
    this.#state = seed >>> 0;
  }

  /** 0 (inclusive) to 1 (exclusive). */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0;
    let mixed = this.#state;
    mixed = Math.imul(mixed ^ (mixed >>> 15), mixed | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  }

  between(low: number, high: number): number {
    return low + (high - low) * this.next();
  }

  /** A whole number from low to high, both included. */
  whole(low: number, high: number): number {
    return Math.floor(this.between(low, high + 1));
  }

  pick<T>(choices: readonly T[]): T {
    return itemAt(choices, Math.floor(this.next() * choices.length));
  }

  /** Sum of twelve draws: bell-shaped around 0 with deviation 1. */
  bell(): number {
    let sum = -6;
    for (let i = 0; i < 12; i++) sum += this.next();
    return sum;
  }
}

import { useEffect, useState } from "react";

/** Work that may wait for a picture of the screen or two, so that scrolling never waits for it. */
class Turns {
  readonly #budgetMs: number;
  readonly #waiting = new Set<() => void>();
  #request = 0;

  /** So much of a picture's time is worked in; with 0 one piece of work a picture. */
  constructor(budgetMs: number) {
    this.#budgetMs = budgetMs;
  }

  /** The function that is returned takes the turn back. */
  take(work: () => void): () => void {
    this.#waiting.add(work);
    if (this.#request === 0) this.#request = requestAnimationFrame(this.#some);
    return () => void this.#waiting.delete(work);
  }

  readonly #some = (): void => {
    this.#request = 0;
    const from = performance.now();
    for (const work of this.#waiting) {
      this.#waiting.delete(work);
      work();
      if (performance.now() - from >= this.#budgetMs) break;
    }
    if (this.#waiting.size > 0) this.#request = requestAnimationFrame(this.#some);
  };
}

const drawing = new Turns(6);
const filling = new Turns(0);

/** Draws in its turn, after what was asked for before. */
export const drawInTurn = (draw: () => void): (() => void) => drawing.take(draw);

/**
 * True from the turn of whoever asks on: rows that come into sight together are filled one after
 * the other.
 */
export function useTurn(): boolean {
  const [isOn, setOn] = useState(false);
  useEffect(() => filling.take(() => setOn(true)), []);
  return isOn;
}

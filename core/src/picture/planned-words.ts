import type { Letters, WordPlace, Words } from "../show/index.ts";

/**
 * Words of a slide as they are to be seen in a film: what they say, how they are written and where.
 * Nothing is laid out yet.
 */
export interface PlannedWords {
  readonly kind: Words["kind"] | "caption";
  readonly text: string;
  readonly letters: Omit<Letters, "fade">;
  readonly place: WordPlace;
  /** Times the usual size of their kind. */
  readonly size: number;
}

/**
 * All words of one slide, laid out together so that none covers another; in the order in which they
 * give way.
 */
export type WordSheet = readonly PlannedWords[];

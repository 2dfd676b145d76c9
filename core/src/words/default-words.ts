import type { PlannedWords } from "../picture/index.ts";

type Kind = PlannedWords["kind"];

/**
 * How words of a kind are set where nobody says otherwise. Sizes are shares of the frame's shorter
 * side. Common practice, and our own eyes.
 */
export interface DefaultWords {
  /** Of the main line. */
  readonly size: number;
  /** Of the other lines, times the main one. */
  readonly second: number;
  /** How much of the title-safe area they may take. */
  readonly width: number;
  readonly height: number;
}

export const DEFAULT_WORDS: Readonly<Record<Kind, DefaultWords>> = {
  title: { size: 0.11, second: 0.42, width: 0.9, height: 0.85 },
  text: { size: 0.056, second: 1, width: 0.74, height: 0.95 },
  caption: { size: 0.046, second: 1, width: 0.84, height: 0.4 },
  "lower-third": { size: 0.056, second: 0.74, width: 0.6, height: 0.33 },
  end: { size: 0.088, second: 0.46, width: 0.9, height: 0.85 },
  credits: { size: 0.046, second: 0.66, width: 0.8, height: Number.POSITIVE_INFINITY },
};

/**
 * Words that do not fit at their size are set smaller, down to this share of it; below that they
 * would not be read.
 */
export const SMALLEST_SHARE = 0.5;

/** A line of credits that ends so is a heading. */
export const isHeading = (line: string): boolean => line.trimEnd().endsWith(":");

/**
 * Of the ground behind words, in ems of the main letters: how far it reaches around them, and a
 * quarter of how wide its edge is.
 */
export const BACKING_PADDING = 0.34;
export const BACKING_SOFTNESS = 0.26;

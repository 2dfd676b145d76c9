import type { BlockWishes, Capitals, Entrance, FilmFont, Letters, WordPlace, Words } from "../show/index.ts";

/** A line or a drawing that belongs to a title set. */
export type Ornament = "none" | "side-rule" | "short-rule" | "rules" | "diamond" | "frame" | "corners";

/** How one line of words is written. */
export interface PlannedLine {
  readonly font: FilmFont;
  readonly weight: 400 | 700;
  readonly italic: boolean;
  /** Room between letters beyond the usual, in ems. */
  readonly spacing: number;
  readonly capitals: Capitals;
  readonly colour: string;
  /** Times the size of the block. */
  readonly size: number;
}

/**
 * Words of a slide as they are to be seen in a film: what they say, how they are written and where.
 * Nothing is laid out yet.
 */
export interface PlannedWords {
  readonly kind: Words["kind"] | "caption";
  readonly text: string;
  readonly place: WordPlace;
  /** Times the usual size of their kind. */
  readonly size: number;
  /** One entry for each line of the text. */
  readonly lines: readonly PlannedLine[];
  readonly align: BlockWishes["align"];
  /** Times the usual distance of lines. */
  readonly lineSpacing: number;
  readonly ornament: Ornament;
  /** Of the ornament. */
  readonly colour: string;
  readonly outline: Letters["outline"];
  readonly shadow: number;
  readonly backing: Letters["backing"];
  readonly entrance: Entrance;
}

/**
 * All words of one slide, laid out together so that none covers another; in the order in which they
 * give way.
 */
export type WordSheet = readonly PlannedWords[];

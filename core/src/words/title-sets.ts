import type { Ornament, PlannedLine } from "../picture/index.ts";
import type { TitleSet } from "../show/index.ts";

/** A face in a title set; its colour is the words' own. */
export type SetFace = Omit<PlannedLine, "colour">;

/**
 * A design for all words of a film: which faces go together, in which proportions, and what is
 * drawn beside them. Our own designs; the fonts are free (SIL Open Font License).
 */
export interface TitleSetDesign {
  /** The first line of titles, end cards and lower thirds. `size`: times the usual. */
  readonly main: SetFace;
  /** The lines below it, and headings of credits. `size`: times the usual size of such lines. */
  readonly second: SetFace;
  /** Captions, text and credits: what is read rather than looked at. */
  readonly body: SetFace;
  /** Of titles and end cards. */
  readonly ornament: Ornament;
}

const plain = { weight: 400, italic: false, spacing: 0, capitals: "as-written", size: 1 } as const;

export const TITLE_SET_DESIGNS: Readonly<Record<TitleSet, TitleSetDesign>> = {
  quay: {
    main: { ...plain, font: "Cormorant Garamond", size: 1.18 },
    second: { ...plain, font: "Josefin Sans", capitals: "all", spacing: 0.2, size: 0.78 },
    body: { ...plain, font: "Josefin Sans" },
    ornament: "short-rule",
  },
  lantern: {
    main: { ...plain, font: "Great Vibes", size: 1.5 },
    second: { ...plain, font: "Cinzel", spacing: 0.16, capitals: "small", size: 0.96 },
    body: { ...plain, font: "EB Garamond", size: 1.08 },
    ornament: "none",
  },
  pennant: {
    main: { ...plain, font: "Oswald", weight: 700, capitals: "all", spacing: 0.03 },
    second: { ...plain, font: "Oswald", capitals: "all", spacing: 0.26, size: 0.84 },
    body: { ...plain, font: "Oswald" },
    ornament: "none",
  },
  logbook: {
    main: { ...plain, font: "EB Garamond", italic: true, size: 1.1 },
    second: { ...plain, font: "EB Garamond", capitals: "small", spacing: 0.12, size: 1.02 },
    body: { ...plain, font: "EB Garamond", size: 1.08 },
    ornament: "diamond",
  },
  harbour: {
    main: { ...plain, font: "Cinzel", spacing: 0.1, size: 0.84 },
    second: { ...plain, font: "Cormorant Garamond", italic: true, size: 1.16 },
    body: { ...plain, font: "Cormorant Garamond", weight: 700, size: 1.1 },
    ornament: "rules",
  },
  signal: {
    main: { ...plain, font: "Montserrat", weight: 700, capitals: "all", spacing: 0.08, size: 0.74 },
    second: { ...plain, font: "Montserrat", capitals: "all", spacing: 0.22, size: 0.7 },
    body: { ...plain, font: "Montserrat", size: 0.92 },
    ornament: "frame",
  },
  evening: {
    main: { ...plain, font: "Playfair Display", italic: true, size: 1.02 },
    second: { ...plain, font: "Josefin Sans", capitals: "all", spacing: 0.28, size: 0.74 },
    body: { ...plain, font: "Playfair Display", size: 0.96 },
    ornament: "short-rule",
  },
  regatta: {
    main: { ...plain, font: "Josefin Sans", capitals: "all", spacing: 0.3, size: 0.7 },
    second: { ...plain, font: "Great Vibes", size: 1.55 },
    body: { ...plain, font: "Josefin Sans" },
    ornament: "none",
  },
  bow: {
    main: { ...plain, font: "Playfair Display", weight: 700, size: 0.96 },
    second: { ...plain, font: "Playfair Display", italic: true },
    body: { ...plain, font: "Playfair Display", size: 0.96 },
    ornament: "corners",
  },
  sail: {
    main: { ...plain, font: "Dancing Script", weight: 700, size: 1.24 },
    second: { ...plain, font: "Montserrat", capitals: "all", spacing: 0.2, size: 0.68 },
    body: { ...plain, font: "Noto Sans", size: 0.95 },
    ornament: "none",
  },
};

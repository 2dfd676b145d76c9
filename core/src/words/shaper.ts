/**
 * How letters become shapes: an interface, so that layout can be read and tested without a font
 * engine. All lengths in ems: 1 is the size of the letters. y grows downwards.
 */

/**
 * A closed shape: `M x y`, `L x y`, `Q x1 y1 x y`, `C x1 y1 x2 y2 x y` and `Z`. Lengths are in ems
 * from the glyph's origin.
 */
export type Outline = readonly OutlineStep[];
export type OutlineStep =
  | readonly ["M" | "L", number, number]
  | readonly ["Q", number, number, number, number]
  | readonly ["C", number, number, number, number, number, number]
  | readonly ["Z"];

/** A part of a coloured glyph. */
export interface Paint {
  readonly outline: Outline;
  readonly fill: PaintFill;
}

export type PaintFill =
  | { readonly kind: "colour"; readonly colour: string }
  | {
      readonly kind: "linear";
      readonly from: readonly [number, number];
      readonly to: readonly [number, number];
      readonly stops: readonly PaintStop[];
    }
  | {
      readonly kind: "radial";
      /** x, y, radius. */
      readonly from: readonly [number, number, number];
      readonly to: readonly [number, number, number];
      readonly stops: readonly PaintStop[];
    };
export interface PaintStop {
  readonly at: number;
  readonly colour: string;
}

export interface ShapedGlyph {
  /** In the colour of the words; empty for a space. */
  readonly outline: Outline;
  /** Of an emoji: in colours of its own, from the bottom up; null for letters. */
  readonly paints: readonly Paint[] | null;
  /** Where it stands from the run's beginning, left to right, whatever way the text goes. */
  readonly x: number;
  readonly y: number;
  readonly advance: number;
  /** Index in the text of the first letter that it stands for. */
  readonly start: number;
}

/** A stretch of text in one font and direction, as it is drawn. */
export interface ShapedRun {
  readonly glyphs: readonly ShapedGlyph[];
  readonly width: number;
}

/** Above and below the line that letters stand on, both positive. */
export interface FontExtent {
  readonly ascent: number;
  readonly descent: number;
}

export interface Shaper {
  /** Whether a loaded file really has all the glyphs that a grapheme wants. */
  readonly covers: (file: string, grapheme: string) => boolean;
  readonly isLoaded: (file: string) => boolean;
  /** `isSpaced`: no ligatures, whose letters could not be set apart. */
  readonly shape: (file: string, text: string, isRightToLeft: boolean, isSpaced: boolean) => ShapedRun;
  readonly extent: (file: string) => FontExtent;
}

import type { Point } from "../values/index.ts";
import type { ClipInstant } from "./clip.ts";
import type { EntranceState } from "./entrance.ts";
import type { Rectangle, Size } from "./geometry.ts";
import type { WordSheet } from "./planned-words.ts";
import type { ImageName } from "./surface.ts";

/** One frame of a film as plain data that a test can read; everything in pixels of the film. */
export interface FramePlan {
  readonly size: Size;
  /** From the bottom up. */
  readonly layers: readonly Layer[];
  /** Colours over everything. */
  readonly veils: readonly Veil[];
}

export interface Veil {
  readonly colour: string;
  /** 0 to 1. */
  readonly alpha: number;
}

export type Layer = SceneLayer | ShadeLayer;

/**
 * What is seen of a slide: its ground, pictures and words as one, so that alpha and mask hold for
 * all of them together.
 */
export interface SceneLayer {
  readonly kind: "scene";
  /** What is seen where no part is; null where the picture covers the frame. */
  readonly ground: Ground | null;
  /** From the bottom up. */
  readonly parts: readonly ScenePart[];
  /** 0 to 1. */
  readonly alpha: number;
  /** A convex polygon outside of which nothing is drawn; null: all of the frame. */
  readonly bounds: readonly Point[] | null;
  readonly mask: Mask | null;
  /**
   * Times the light that it has: highlights burn out first, darks stay dark. From 1, which is meant
   * where nothing is said.
   */
  readonly exposure?: number;
}

export type ScenePart = PicturePart | LinesPart | WordsPart | LightsPart | PapersPart | GrainPart;

export interface PicturePart {
  readonly kind: "picture";
  readonly image: ImageName;
  /** Null for a picture; of a clip, what is shown of it. */
  readonly clip: ClipInstant | null;
  /** Where the whole picture lies; it may reach beyond the frame. */
  readonly target: Rectangle;
  /** Only what lies in here is seen of it; null: all that lies in the frame. */
  readonly cell: Rectangle | null;
  /** 0 to 1. */
  readonly alpha: number;
}

/** A line along the inside of a rectangle's edge. */
export interface LinesPart {
  readonly kind: "lines";
  readonly rectangle: Rectangle;
  readonly width: number;
  readonly colour: string;
  /** 0 to 1. */
  readonly alpha: number;
}

/** Round lights that are added to what is below. */
export interface LightsPart {
  readonly kind: "lights";
  /** Colours as "r, g, b". */
  readonly lights: readonly {
    readonly centre: Point;
    readonly radius: number;
    readonly colour: string;
    readonly alpha: number;
  }[];
}

export interface PapersPart {
  readonly kind: "papers";
  readonly papers: readonly { readonly corners: readonly Point[]; readonly colour: string }[];
}

/** The tile of grain (overlays.ts) over all of the frame, from this place of it. */
export interface GrainPart {
  readonly kind: "grain";
  readonly offset: Point;
  readonly alpha: number;
}

/** Words of a sheet, laid out for the whole frame. */
export interface WordsPart {
  readonly kind: "words";
  readonly sheet: WordSheet;
  /** Which of the sheet's words. */
  readonly index: number;
  /** 0 to 1. */
  readonly alpha: number;
  /**
   * How far they have scrolled, from 0 (all below the frame) to 1 (all above it); null: they stand.
   */
  readonly scrolled: number | null;
  /** How they appear; null: all of them are there. */
  readonly entrance: EntranceState | null;
  /** Where the frame that they are laid out for lies. */
  readonly placement: Placement;
}

/** A place x, y is drawn at `scale` times it, moved by x and y. */
export interface Placement {
  readonly scale: number;
  readonly x: number;
  readonly y: number;
}

export const AS_IT_IS: Placement = { scale: 1, x: 0, y: 0 };

/**
 * A stretch of light or shadow on a convex polygon, its colour changing from one line to another.
 */
export interface ShadeLayer {
  readonly kind: "shade";
  readonly bounds: readonly Point[];
  readonly from: Point;
  readonly to: Point;
  /** At least two, `at` rising from 0 to 1; colours as "rgba(r, g, b, a)" or "#rrggbb". */
  readonly stops: readonly { readonly at: number; readonly colour: string }[];
}

export type Ground =
  | { readonly kind: "colour"; readonly colour: string }
  | {
      readonly kind: "image";
      readonly image: ImageName;
      readonly target: Rectangle;
    };

/**
 * How much of a layer is seen: all of it at the first place, nothing at the second, and evenly less
 * between.
 */
export type Mask =
  | { readonly kind: "linear"; readonly from: Point; readonly to: Point }
  | { readonly kind: "circle"; readonly centre: Point; readonly inner: number; readonly outer: number };

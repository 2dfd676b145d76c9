import type { Point } from "../show/index.ts";
import type { ClipInstant } from "./clip.ts";
import type { Rectangle, Size } from "./geometry.ts";
import type { PictureKind } from "./surface.ts";

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

export type Layer = PictureLayer | ShadeLayer;

/** A picture on its ground, as one: alpha and mask hold for both together. */
export interface PictureLayer {
  readonly kind: "picture";
  /** Name as it is drawn: `drawnPicture`. */
  readonly picture: string;
  /** Null for a picture; of a clip, what is shown of it. */
  readonly clip: ClipInstant | null;
  /** Where the whole picture lies; it may reach beyond the frame. */
  readonly target: Rectangle;
  /** What is seen where the picture is not; null where it covers the frame. */
  readonly ground: Ground | null;
  /** 0 to 1. */
  readonly alpha: number;
  /** A convex polygon outside of which nothing is drawn; null: all of the frame. */
  readonly bounds: readonly Point[] | null;
  readonly mask: Mask | null;
}

/** A stretch of light or shadow on a convex polygon, its colour changing from one line to another. */
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
      readonly picture: string;
      readonly of: PictureKind;
      readonly target: Rectangle;
    };

/** How much of a layer is seen: all of it at the first place, nothing at the second, and evenly less between. */
export type Mask =
  | { readonly kind: "linear"; readonly from: Point; readonly to: Point }
  | { readonly kind: "circle"; readonly centre: Point; readonly inner: number; readonly outer: number };

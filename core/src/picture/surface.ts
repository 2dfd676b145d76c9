import type { Look } from "../show/index.ts";
import type { ClipInstant } from "./clip.ts";
import type { Rectangle, Size } from "./geometry.ts";
import type { WordSheet } from "./planned-words.ts";

/**
 * The part of the Canvas 2D API that pictures are drawn with: small enough that the browser's
 * canvas, a worker's and the server's all satisfy it, so that one drawFrame serves stage and
 * export.
 */
export interface Surface2D<Image> {
  globalAlpha: number;
  globalCompositeOperation: string;
  fillStyle: unknown;
  strokeStyle: unknown;
  lineWidth: number;
  lineJoin: "round" | "bevel" | "miter";
  imageSmoothingEnabled: boolean;
  imageSmoothingQuality: "low" | "medium" | "high";
  save(): void;
  restore(): void;
  beginPath(): void;
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  quadraticCurveTo(x1: number, y1: number, x: number, y: number): void;
  bezierCurveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void;
  closePath(): void;
  clip(): void;
  fill(): void;
  stroke(): void;
  clearRect(x: number, y: number, width: number, height: number): void;
  fillRect(x: number, y: number, width: number, height: number): void;
  createLinearGradient(x0: number, y0: number, x1: number, y1: number): ColourSlope;
  createRadialGradient(x0: number, y0: number, r0: number, x1: number, y1: number, r1: number): ColourSlope;
  drawImage(
    image: Image,
    sourceX: number,
    sourceY: number,
    sourceWidth: number,
    sourceHeight: number,
    x: number,
    y: number,
    width: number,
    height: number,
  ): void;
}

interface ColourSlope {
  addColorStop(offset: number, colour: string): void;
}

/** An image ready to draw, with the size it really has in pixels. */
export interface DrawableImage<Image> {
  readonly image: Image;
  readonly width: number;
  readonly height: number;
}

/** An image that frames are drawn from. */
export interface ImageName {
  /** Name as it is drawn: `drawnPicture`. */
  readonly picture: string;
  /** `fill` is the small blurred copy that stands beside a picture, `graphic` keeps its alpha. */
  readonly of: "picture" | "fill" | "graphic";
  /** Null: as it was taken. */
  readonly look: Look | null;
}

/** Tells images apart. */
export const imageKey = ({ picture, of, look }: ImageName): string =>
  `${of} ${picture}${look ? ` ${look.kind} ${look.strength} ${look.levels}` : ""}`;

/** Gives an image, of a clip the frame of an instant; null while it is not loaded. */
export type ImageSource<Image> = (image: ImageName, clip: ClipInstant | null) => DrawableImage<Image> | null;

/**
 * Words as they are drawn: images with their places in the frame that they were laid out for; of
 * scrolling words, below its upper edge.
 */
export interface DrawnWords<Image> {
  /** From the bottom up. */
  readonly pieces: readonly WordPiece<Image>[];
  /** Of all lines together. */
  readonly height: number;
}

/**
 * What a piece of drawn words is. "all": letters with all that belongs to them. The others are for
 * words that do not simply fade: the ground behind all of them, what lies behind the letters of a
 * line, the letters themselves, and the ornament.
 */
export type WordPieceRole = "all" | "ground" | "behind" | "letters" | "ornament";

export interface WordPiece<Image> {
  readonly image: DrawableImage<Image>;
  readonly target: Rectangle;
  readonly role: WordPieceRole;
  /** The written line that it belongs to; 0 for what belongs to none. */
  readonly line: number;
  /** Where one letter ends and the next begins, from left to right, in pixels of the film. */
  readonly cuts: readonly number[];
}

/** Gives the words of a sheet; null while their fonts are not loaded. */
export type WordSource<Image> = (sheet: WordSheet, index: number, frame: Size) => DrawnWords<Image> | null;

/** Where a frame's images and words come from. */
export interface DrawSources<Image> {
  readonly images: ImageSource<Image>;
  readonly words: WordSource<Image>;
  /** The tile of grain (overlays.ts); null while it is not made. */
  readonly grain: () => DrawableImage<Image> | null;
  /**
   * Asked for only where a layer must be put together before it is laid on; it may be the same one
   * every time.
   */
  readonly scratch: () => Scratch<Image>;
}

/**
 * A second canvas of the surface's size and scale, on which a layer is put together before it is
 * laid over the others.
 */
export interface Scratch<Image> extends DrawableImage<Image> {
  readonly surface: Surface2D<Image>;
}

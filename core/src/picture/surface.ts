import type { ClipInstant } from "./clip.ts";

/**
 * The part of the Canvas 2D API that pictures are drawn with: small enough that the browser's canvas, a worker's and
 * the server's all satisfy it, so that one drawFrame serves stage and export.
 */
export interface Surface2D<Image> {
  globalAlpha: number;
  globalCompositeOperation: string;
  fillStyle: unknown;
  imageSmoothingEnabled: boolean;
  imageSmoothingQuality: "low" | "medium" | "high";
  save(): void;
  restore(): void;
  beginPath(): void;
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  closePath(): void;
  clip(): void;
  fill(): void;
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

/** `fill` is the small blurred copy that stands beside a picture. */
export type PictureKind = "picture" | "fill";

/** Gives the images of a drawn picture by its name, of a clip the frame of an instant; null while it is not loaded. */
export type ImageSource<Image> = (
  picture: string,
  kind: PictureKind,
  clip: ClipInstant | null,
) => DrawableImage<Image> | null;

/** A second canvas of the surface's size and scale, on which a layer is put together before it is laid over the others. */
export interface Scratch<Image> extends DrawableImage<Image> {
  readonly surface: Surface2D<Image>;
}

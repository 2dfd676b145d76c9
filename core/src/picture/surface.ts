/**
 * The part of the Canvas 2D API that pictures are drawn with: small enough that the browser's canvas, a worker's and
 * the server's all satisfy it, so that one drawFrame serves stage and export.
 */
export interface Surface2D<Image> {
  globalAlpha: number;
  fillStyle: unknown;
  imageSmoothingEnabled: boolean;
  imageSmoothingQuality: "low" | "medium" | "high";
  fillRect(x: number, y: number, width: number, height: number): void;
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

/** An image ready to draw, with the size it really has in pixels. */
export interface DrawableImage<Image> {
  readonly image: Image;
  readonly width: number;
  readonly height: number;
}

/** Gives the images of a drawn picture by its name; null while it is not loaded. `fill` is the small blurred copy that stands beside it. */
export type ImageSource<Image> = (picture: string, kind: "picture" | "fill") => DrawableImage<Image> | null;

import type { HummingTideError } from "@humming-tide/core";
import { filmError } from "@humming-tide/core/film";
import { applyLook, type DrawableImage, type ImageName, imageKey, type Surface2D } from "@humming-tide/core/picture";
import { type Canvas, createCanvas, type Image, ImageData, loadImage } from "@napi-rs/canvas";

/** What can be drawn on a canvas here. */
export type DrawnImage = Image | Canvas;

/**
 * A canvas as drawFrame sees it: its context has more than a surface needs, under the same names.
 */
export const surfaceOf = (canvas: Canvas): Surface2D<DrawnImage> => canvas.getContext("2d");

/** Where the file of an image lies. */
export type PathOfImage = (picture: string, of: ImageName["of"]) => string;

/**
 * Pictures ready to be drawn on a canvas, those of a frame; others go, so memory does not grow with
 * the show.
 */
export class PictureCache {
  readonly #path: PathOfImage;
  readonly #images = new Map<string, DrawableImage<DrawnImage>>();

  constructor(path: PathOfImage) {
    this.#path = path;
  }

  /** Loads what is named and forgets the rest. Throws `missing-picture`. */
  async preload(wanted: readonly ImageName[]): Promise<void> {
    const keys = new Set(wanted.map(imageKey));
    for (const key of this.#images.keys()) if (!keys.has(key)) this.#images.delete(key);
    for (const name of wanted) {
      const key = imageKey(name);
      if (this.#images.has(key)) continue;
      const image = await loadImage(this.#path(name.picture, name.of)).catch((cause: unknown) => {
        throw missingPicture(name, cause);
      });
      const drawn = name.look ? withLook(image, name.look) : image;
      this.#images.set(key, { image: drawn, width: image.width, height: image.height });
    }
  }

  readonly get = (name: ImageName): DrawableImage<DrawnImage> | null => this.#images.get(imageKey(name)) ?? null;
}

export const missingPicture = ({ picture }: ImageName, cause: unknown): HummingTideError =>
  filmError("missing-picture", { picture: picture.slice(0, 12) }, { cause });

function withLook(image: Image, look: NonNullable<ImageName["look"]>): Canvas {
  const canvas = createCanvas(image.width, image.height);
  const context = canvas.getContext("2d");
  context.drawImage(image, 0, 0);
  const { data } = context.getImageData(0, 0, image.width, image.height);
  applyLook(data, look);
  context.putImageData(new ImageData(data, image.width, image.height), 0, 0);
  return canvas;
}

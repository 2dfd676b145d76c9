import { HummingTideError } from "@humming-tide/core";
import type { DrawableImage, PictureKind, Surface2D } from "@humming-tide/core/picture";
import { type Canvas, type Image, loadImage } from "@napi-rs/canvas";

/** What can be drawn on a canvas here. */
export type DrawnImage = Image | Canvas;

/** A canvas as drawFrame sees it: its context has more than a surface needs, under the same names. */
export const surfaceOf = (canvas: Canvas): Surface2D<DrawnImage> => canvas.getContext("2d");

/** Pictures ready to draw, the few that a stretch of film needs; older ones go, so memory does not grow with the show. */
export class PictureCache {
  readonly #path: (picture: string, kind: PictureKind) => string;
  readonly #images = new Map<string, DrawableImage<DrawnImage>>();

  constructor(path: (picture: string, kind: PictureKind) => string) {
    this.#path = path;
  }

  /** Loads what is named and forgets the rest. Throws `missing-picture`. */
  async need(pictures: readonly string[]): Promise<void> {
    const wanted = pictures.flatMap((picture) =>
      (["picture", "fill"] as const).map((kind) => ({ picture, kind, key: `${kind} ${picture}` })),
    );
    const keys = new Set(wanted.map(({ key }) => key));
    for (const key of this.#images.keys()) if (!keys.has(key)) this.#images.delete(key);
    for (const { picture, kind, key } of wanted) {
      if (this.#images.has(key)) continue;
      const image = await loadImage(this.#path(picture, kind)).catch((cause: unknown) => {
        throw new HummingTideError(
          "missing-picture",
          `A picture of this show is missing from the data folder (${picture.slice(0, 12)}). Bring it in again.`,
          { cause },
        );
      });
      this.#images.set(key, { image, width: image.width, height: image.height });
    }
  }

  readonly get = (picture: string, kind: PictureKind): DrawableImage<DrawnImage> | null =>
    this.#images.get(`${kind} ${picture}`) ?? null;
}

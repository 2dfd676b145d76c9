import { HummingTideError } from "@humming-tide/core";
import type { DrawableImage } from "@humming-tide/core/picture";
import { type Image, loadImage } from "@napi-rs/canvas";

/** Pictures ready to draw, the few that a stretch of film needs; older ones go, so memory does not grow with the show. */
export class PictureCache {
  readonly #path: (sha256: string, kind: "picture" | "fill") => string;
  readonly #images = new Map<string, DrawableImage<Image>>();

  constructor(path: (sha256: string, kind: "picture" | "fill") => string) {
    this.#path = path;
  }

  /** Loads what is named and forgets the rest. Throws `missing-picture`. */
  async need(hashes: readonly string[]): Promise<void> {
    const wanted = hashes.flatMap((sha256) =>
      (["picture", "fill"] as const).map((kind) => ({ sha256, kind, key: `${kind} ${sha256}` })),
    );
    const keys = new Set(wanted.map(({ key }) => key));
    for (const key of this.#images.keys()) if (!keys.has(key)) this.#images.delete(key);
    for (const { sha256, kind, key } of wanted) {
      if (this.#images.has(key)) continue;
      const image = await loadImage(this.#path(sha256, kind)).catch((cause: unknown) => {
        throw new HummingTideError(
          "missing-picture",
          `A picture of this show is missing from the data folder (${sha256.slice(0, 12)}). Bring it in again.`,
          { cause },
        );
      });
      this.#images.set(key, { image, width: image.width, height: image.height });
    }
  }

  readonly get = (sha256: string, kind: "picture" | "fill"): DrawableImage<Image> | null =>
    this.#images.get(`${kind} ${sha256}`) ?? null;
}

import type { DrawableImage, PictureKind } from "@humming-tide/core/picture";
import { mediaUrl } from "../api.ts";

/** Longest side of pictures on the stage: sharp on its canvas, and quick to decode. */
const LONGEST_SIDE = 1600;
const KEPT = 16;

/** Pictures for the stage, decoded off the page's thread, the most recent few kept. Emits "arrived". */
export class StageImages extends EventTarget {
  readonly #images = new Map<string, DrawableImage<ImageBitmap> | null>();

  readonly get = (picture: string, kind: PictureKind): DrawableImage<CanvasImageSource> | null =>
    this.#images.get(`${kind} ${picture}`) ?? null;

  /** Makes sure that pictures are on their way; the ones needed now come first. */
  need(pictures: readonly string[]): void {
    for (const picture of pictures) {
      for (const kind of ["picture", "fill"] as const) {
        const key = `${kind} ${picture}`;
        const there = this.#images.get(key);
        if (there !== undefined) {
          // Moved to the end: last used, last dropped.
          this.#images.delete(key);
          this.#images.set(key, there);
          continue;
        }
        this.#images.set(key, null);
        void this.#load(key, mediaUrl(picture, kind === "fill" ? "fill" : "working"));
      }
    }
    for (const [key, image] of this.#images) {
      if (this.#images.size <= KEPT) break;
      image?.image.close();
      this.#images.delete(key);
    }
  }

  async #load(key: string, url: string): Promise<void> {
    try {
      const response = await fetch(url);
      if (!response.ok) throw new Error(`status ${response.status}`);
      const whole = await createImageBitmap(await response.blob());
      const scale = LONGEST_SIDE / Math.max(whole.width, whole.height);
      const image =
        scale >= 1
          ? whole
          : await createImageBitmap(whole, { resizeWidth: Math.round(whole.width * scale), resizeQuality: "high" });
      if (!this.#images.has(key)) {
        image.close();
        return;
      }
      this.#images.set(key, { image, width: image.width, height: image.height });
      this.dispatchEvent(new Event("arrived"));
    } catch {
      // Asked for again the next time that it is needed.
      this.#images.delete(key);
    }
  }

  close(): void {
    for (const image of this.#images.values()) image?.image.close();
    this.#images.clear();
  }
}

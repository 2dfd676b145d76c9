import { type DrawableImage, type ImageName, imageKey } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import { mediaUrl } from "../api.ts";
import type { ImageAnswer, ImageRequest } from "./image-worker.ts";

/** Longest side of pictures on the stage: sharp on its canvas, and quick to decode. */
const LONGEST_SIDE = 1600;
const KEPT = 20;
const FILES = { picture: "working", fill: "fill", graphic: "graphic" } as const;

/**
 * Images for the stage, decoded off the page's thread, the most recent few kept. Emits "arrived".
 */
export class StageImages extends EventTarget {
  readonly #images = new Map<string, DrawableImage<ImageBitmap> | null>();
  /** What a picture looked like last, so that it does not vanish while a look is changed. */
  readonly #lastKey = new Map<string, string>();
  #worker: Worker | null = null;
  /**
   * Asked of the worker, or waiting until it has answered; only what is still needed then is asked
   * for.
   */
  #asked: string | null = null;
  #wanted = new Map<string, ImageName>();

  readonly get = (name: ImageName): DrawableImage<CanvasImageSource> | null => {
    const plain = imageKey({ ...name, look: null });
    return this.#images.get(imageKey(name)) ?? this.#images.get(this.#lastKey.get(plain) ?? "") ?? null;
  };

  /** Makes sure that images are on their way; the ones needed now come first. */
  preload(names: readonly ImageName[]): void {
    this.#wanted = new Map();
    for (const name of names) {
      const key = imageKey(name);
      const there = this.#images.get(key);
      if (there !== undefined) {
        // Moved to the end: last used, last dropped.
        this.#images.delete(key);
        this.#images.set(key, there);
      } else if (name.look) {
        this.#wanted.set(key, name);
      } else {
        this.#images.set(key, null);
        void this.#load(name);
      }
    }
    this.#askWorker();
    for (const [key, image] of this.#images) {
      if (this.#images.size <= KEPT) break;
      image?.image.close();
      this.#images.delete(key);
    }
  }

  async #load(name: ImageName): Promise<void> {
    const key = imageKey(name);
    try {
      const response = await fetch(mediaUrl(name.picture, FILES[name.of]));
      if (!response.ok) throw new Error(`status ${response.status}`);
      const whole = await createImageBitmap(await response.blob());
      const scale = LONGEST_SIDE / Math.max(whole.width, whole.height);
      const image =
        scale >= 1
          ? whole
          : await createImageBitmap(whole, { resizeWidth: Math.round(whole.width * scale), resizeQuality: "high" });
      if (this.#images.has(key)) this.#arrived(key, image);
      else image.close();
    } catch {
      // Asked for again the next time that it is needed.
      this.#images.delete(key);
    }
  }

  /**
   * One at a time: while a strength is dragged, looks that nobody wants any more are never made.
   */
  #askWorker(): void {
    const next = this.#wanted.entries().next();
    if (this.#asked !== null || next.done) return;
    const [key, { picture, of, look }] = next.value;
    this.#wanted.delete(key);
    this.#asked = key;
    this.#worker ??= this.#openWorker();
    const url = new URL(mediaUrl(picture, FILES[of]), location.href).href;
    this.#worker.postMessage({ key, url, longestSide: LONGEST_SIDE, look: present(look) } satisfies ImageRequest);
  }

  #openWorker(): Worker {
    const worker = new Worker(new URL("./image-worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data: { key, image } }: MessageEvent<ImageAnswer>) => {
      this.#asked = null;
      if (image) this.#arrived(key, image);
      this.#askWorker();
    };
    return worker;
  }

  #arrived(key: string, image: ImageBitmap): void {
    this.#images.get(key)?.image.close();
    this.#images.set(key, { image, width: image.width, height: image.height });
    // "picture <name> <look>": the name is what all looks of it have in common.
    this.#lastKey.set(key.split(" ").slice(0, 2).join(" "), key);
    this.dispatchEvent(new Event("arrived"));
  }

  close(): void {
    this.#worker?.terminate();
    for (const image of this.#images.values()) image?.image.close();
    this.#images.clear();
  }
}

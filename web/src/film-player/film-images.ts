import type { DrawableImage } from "@humming-tide/core/picture";

type Loaded = DrawableImage<CanvasImageSource> | "loading" | "failed";

/**
 * Images of the folder by the name of their file, fetched when they are needed and let go when they
 * are not. Emits "arrived".
 */
export class FilmImages extends EventTarget {
  readonly #folder: string;
  readonly #images = new Map<string, Loaded>();

  constructor(folder: string) {
    super();
    this.#folder = folder;
  }

  /** Brings these and lets go of all others. */
  preload(files: ReadonlySet<string>): void {
    for (const [file, image] of this.#images) {
      if (files.has(file)) continue;
      if (typeof image === "object") (image.image as ImageBitmap).close();
      this.#images.delete(file);
    }
    for (const file of files) if (!this.#images.has(file)) void this.#bring(file);
  }

  get(file: string): DrawableImage<CanvasImageSource> | null {
    const image = this.#images.get(file);
    return typeof image === "object" ? image : null;
  }

  /** It is there, or will never be. */
  isSettled(file: string): boolean {
    const image = this.#images.get(file);
    return typeof image === "object" || image === "failed";
  }

  async #bring(file: string): Promise<void> {
    this.#images.set(file, "loading");
    const element = new Image();
    element.src = this.#folder + file;
    try {
      await element.decode();
      const image = await createImageBitmap(element);
      if (this.#images.get(file) !== "loading") {
        image.close();
        return;
      }
      this.#images.set(file, { image, width: image.width, height: image.height });
    } catch {
      if (this.#images.get(file) === "loading") this.#images.set(file, "failed");
    }
    this.dispatchEvent(new Event("arrived"));
  }
}

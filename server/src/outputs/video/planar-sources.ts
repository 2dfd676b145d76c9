import {
  applyLook,
  type DrawableImage,
  type DrawSources,
  type FramePlan,
  type ImageName,
  imageKey,
  imagesIn,
  type Scratch,
} from "@humming-tide/core/picture";
import { valueFor } from "@humming-tide/core/presence";
import { createCanvas } from "@napi-rs/canvas";
import sharp from "sharp";
import { PlanarImage, PlanarSurface, type PlaneMemory, type RgbaPixels } from "../../planes/index.ts";
import type { ClipFrames } from "./clip-frames.ts";
import type { FilmSources } from "./film-sources.ts";
import { type DrawnImage, missingPicture, type PathOfImage } from "./picture-cache.ts";

/** Drawn words that have not been asked for during so many frames go. */
const KEPT_FRAMES = 100;

type Drawable = DrawableImage<PlanarImage>;

/**
 * Everything that frames are drawn from, in planes: pictures are decoded beside the drawing before
 * they are needed, words and grain come from canvases.
 */
export class PlanarSources implements DrawSources<PlanarImage> {
  readonly #memory: PlaneMemory;
  readonly #path: PathOfImage;
  readonly #clips: ClipFrames;
  readonly #canvases: FilmSources;
  readonly #size: { readonly width: number; readonly height: number };
  readonly #decoding = new Map<string, Promise<RgbaPixels>>();
  readonly #pictures = new Map<string, Drawable>();
  readonly #drawn = new Map<DrawnImage, { readonly drawable: Drawable; lastFrame: number }>();
  readonly #shownOfClips = new Map<number, { readonly pixels: RgbaPixels; readonly drawable: Drawable }>();
  #scratch: Scratch<PlanarImage> | null = null;
  #frame = 0;

  constructor(
    memory: PlaneMemory,
    path: PathOfImage,
    clips: ClipFrames,
    canvases: FilmSources,
    size: { readonly width: number; readonly height: number },
  ) {
    this.#memory = memory;
    this.#path = path;
    this.#clips = clips;
    this.#canvases = canvases;
    this.#size = size;
  }

  /**
   * Loads and decodes what a frame shows, and begins with what the frames around it show
   * (`around`). Throws `missing-picture`, `ffmpeg-failed`, `bad-font`.
   */
  async preload(plan: FramePlan, around: readonly ImageName[]): Promise<void> {
    this.#frame++;
    const keys = new Set(around.map(imageKey));
    for (const [key, { image }] of this.#pictures) {
      if (keys.has(key)) continue;
      image.release();
      this.#pictures.delete(key);
    }
    for (const key of this.#decoding.keys()) if (!keys.has(key)) this.#decoding.delete(key);
    for (const name of around) this.#begin(name);
    for (const name of imagesIn(plan)) await this.#finish(name);
    await this.#canvases.needAllButPictures(plan);
    for (const [source, { drawable, lastFrame }] of this.#drawn) {
      if (this.#frame - lastFrame <= KEPT_FRAMES) continue;
      drawable.image.release();
      this.#drawn.delete(source);
    }
  }

  readonly images: DrawSources<PlanarImage>["images"] = (name, clip) =>
    (clip && this.#frameOfClip(clip.slotIndex, this.#clips.pixels(clip))) ?? this.#pictures.get(imageKey(name)) ?? null;

  readonly words: DrawSources<PlanarImage>["words"] = (sheet, index, frame) => {
    const words = this.#canvases.words(sheet, index, frame);
    return (
      words && { ...words, pieces: words.pieces.map((piece) => ({ ...piece, image: this.#ofCanvas(piece.image) })) }
    );
  };

  readonly grain = (): Drawable => this.#ofCanvas(this.#canvases.grain());

  readonly scratch = (): Scratch<PlanarImage> => {
    if (!this.#scratch) {
      const { width, height } = this.#size;
      const surface = new PlanarSurface(this.#memory, width, height);
      this.#scratch = { surface, image: PlanarImage.over(this.#memory, surface.planes), width, height };
    }
    return this.#scratch;
  };

  #begin(name: ImageName): void {
    const key = imageKey(name);
    if (this.#pictures.has(key) || this.#decoding.has(key)) return;
    const decoding = decode(this.#path(name.picture, name.of), name);
    // Whoever needs it hears of it; a picture that is never reached must not bring the process
    // down.
    decoding.catch(() => undefined);
    this.#decoding.set(key, decoding);
  }

  async #finish(name: ImageName): Promise<void> {
    const key = imageKey(name);
    if (this.#pictures.has(key)) return;
    this.#begin(name);
    const pixels = await valueFor(this.#decoding, key);
    this.#decoding.delete(key);
    this.#pictures.set(key, this.#drawable(pixels));
  }

  #frameOfClip(slotIndex: number, pixels: RgbaPixels | null): Drawable | null {
    if (!pixels) return null;
    const shown = this.#shownOfClips.get(slotIndex);
    if (shown?.pixels === pixels) return shown.drawable;
    // One or two clips are seen at a time.
    for (const [index, { drawable }] of this.#shownOfClips) {
      if (index !== slotIndex && index >= slotIndex - 1 && index <= slotIndex + 1) continue;
      drawable.image.release();
      this.#shownOfClips.delete(index);
    }
    const drawable = this.#drawable(pixels);
    this.#shownOfClips.set(slotIndex, { pixels, drawable });
    return drawable;
  }

  #ofCanvas({ image, width, height }: DrawableImage<DrawnImage>): Drawable {
    const known = this.#drawn.get(image);
    if (known) {
      known.lastFrame = this.#frame;
      return known.drawable;
    }
    const drawable = this.#drawable({ width, height, rgba: pixelsOf(image), opaque: false });
    this.#drawn.set(image, { drawable, lastFrame: this.#frame });
    return drawable;
  }

  #drawable(pixels: RgbaPixels): Drawable {
    return { image: PlanarImage.of(this.#memory, pixels), width: pixels.width, height: pixels.height };
  }
}

/** Premultiplied, as a canvas keeps them. */
function pixelsOf(image: DrawnImage): Uint8Array {
  const canvas = createCanvas(image.width, image.height);
  canvas.getContext("2d").drawImage(image, 0, 0);
  return canvas.data();
}

async function decode(path: string, name: ImageName): Promise<RgbaPixels> {
  const { data, info } = await sharp(path)
    .toColourspace("srgb")
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true })
    .catch((cause: unknown) => {
      throw missingPicture(name, cause);
    });
  const opaque = name.of !== "graphic";
  if (name.look) applyLook(new Uint8ClampedArray(data.buffer, data.byteOffset, data.length), name.look);
  if (!opaque) premultiply(data);
  return { width: info.width, height: info.height, rgba: data, opaque };
}

function premultiply(rgba: Uint8Array): void {
  for (let i = 0; i < rgba.length; i += 4) {
    const alpha = rgba[i + 3]!;
    for (let c = i; c < i + 3; c++) rgba[c] = Math.round((rgba[c]! * alpha) / 255);
  }
}

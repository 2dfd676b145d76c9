import {
  type DrawableImage,
  type DrawSources,
  type FramePlan,
  GRAIN_TILE_PIXELS,
  grainTile,
  imagesIn,
  type Scratch,
} from "@humming-tide/core/picture";
import { WordImages } from "@humming-tide/core/words";
import { type Canvas, createCanvas, ImageData } from "@napi-rs/canvas";
import { FilmFonts } from "../../fonts/film-fonts.ts";
import type { ClipFrames } from "./clip-frames.ts";
import { type DrawnImage, type PictureCache, surfaceOf } from "./picture-cache.ts";

/** Everything that frames of a film are drawn from, on canvases of one size. */
export class FilmSources implements DrawSources<DrawnImage> {
  readonly #pictures: PictureCache;
  readonly #clips: ClipFrames;
  readonly #fonts = new FilmFonts();
  readonly #words = new WordImages<DrawnImage>(this.#fonts, 1, canvasOf);
  readonly #size: { readonly width: number; readonly height: number };
  #scratch: Scratch<DrawnImage> | null = null;
  #grain: DrawableImage<DrawnImage> | null = null;

  constructor(pictures: PictureCache, clips: ClipFrames, size: { readonly width: number; readonly height: number }) {
    this.#pictures = pictures;
    this.#clips = clips;
    this.#size = size;
  }

  /**
   * Loads and decodes all that a frame shows. Throws `missing-picture`, `ffmpeg-failed`,
   * `bad-font`.
   */
  async preload(plan: FramePlan): Promise<void> {
    await this.#pictures.preload(imagesIn(plan));
    await this.needAllButPictures(plan);
  }

  async needAllButPictures(plan: FramePlan): Promise<void> {
    await this.#clips.preload(plan);
    for (const layer of plan.layers) {
      if (layer.kind !== "scene") continue;
      for (const part of layer.parts) if (part.kind === "words") await this.#fonts.preload(part.sheet);
    }
  }

  readonly images: DrawSources<DrawnImage>["images"] = (name, clip) =>
    (clip && this.#clips.get(clip)) ?? this.#pictures.get(name);

  readonly words: DrawSources<DrawnImage>["words"] = (sheet, index, frame) => this.#words.get(sheet, index, frame);

  readonly grain = (): DrawableImage<DrawnImage> => {
    this.#grain ??= grainImage();
    return this.#grain;
  };

  readonly scratch = (): Scratch<DrawnImage> => {
    this.#scratch ??= canvasOf(this.#size.width, this.#size.height);
    return this.#scratch;
  };
}

function grainImage(): DrawableImage<DrawnImage> {
  const side = GRAIN_TILE_PIXELS;
  const image = createCanvas(side, side);
  image.getContext("2d").putImageData(new ImageData(grainTile(), side, side), 0, 0);
  return { image, width: side, height: side };
}

function canvasOf(width: number, height: number): Scratch<DrawnImage> {
  const image: Canvas = createCanvas(width, height);
  return { surface: surfaceOf(image), image, width, height };
}

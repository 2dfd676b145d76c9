import {
  applyLook,
  type DrawableImage,
  drawFrame,
  type FramePlan,
  GRAIN_TILE_PIXELS,
  grainTile,
  type ImageName,
  imageKey,
  imagesIn,
  type WordSheet,
} from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import { type FontFile, filesForWords, HarfBuzzShaper, WordImages } from "@humming-tide/core/words";

type PageImage = DrawableImage<CanvasImageSource>;

/** Whole pictures are large: only those that were used last are kept. */
const MOST_IMAGES = 12;
const images = new Map<string, PageImage>();
const FILES = { picture: "working", fill: "fill", graphic: "graphic" } as const;

/** The image of a picture, from the server or as it was drawn last. */
async function imageOf(name: ImageName): Promise<PageImage> {
  const key = imageKey(name);
  const image = images.get(key) ?? (await load(name));
  images.delete(key);
  images.set(key, image);
  for (const oldest of images.keys()) {
    if (images.size <= MOST_IMAGES) break;
    images.delete(oldest);
  }
  return image;
}

async function load(name: ImageName): Promise<PageImage> {
  const response = await fetch(`/api/media/${name.picture}/${FILES[name.of]}`);
  const whole = await createImageBitmap(await response.blob());
  const { width, height } = whole;
  if (!name.look) return { image: whole, width, height };
  const image = new OffscreenCanvas(width, height);
  const context = present(image.getContext("2d", { willReadFrequently: true }));
  context.drawImage(whole, 0, 0);
  const pixels = context.getImageData(0, 0, width, height);
  applyLook(pixels.data, name.look);
  context.putImageData(pixels, 0, 0);
  return { image, width, height };
}

const SIDE = GRAIN_TILE_PIXELS;
const grain = new OffscreenCanvas(SIDE, SIDE);
present(grain.getContext("2d")).putImageData(new ImageData(grainTile(), SIDE, SIDE), 0, 0);

const fontFiles = (await (await fetch("/api/film-fonts")).json()) as FontFile[];
const fonts = { files: fontFiles, shaper: new HarfBuzzShaper() };

async function needFonts(sheet: WordSheet): Promise<void> {
  for (const name of filesForWords(fonts, sheet)) {
    if (fonts.shaper.isLoaded(name)) continue;
    fonts.shaper.add(name, new Uint8Array(await (await fetch(`/api/film-fonts/${name}`)).arrayBuffer()));
  }
}

/**
 * Runs inside the page: draws planned frames there with the pictures of the server, as the stage
 * does, and gives back their pixels.
 */
async function drawInPage(plans: readonly FramePlan[]): Promise<string[]> {
  const words = new WordImages<CanvasImageSource>(fonts, 1, (width, height) => {
    const image = new OffscreenCanvas(width, height);
    return { surface: present(image.getContext("2d")), image, width, height };
  });
  const drawn: string[] = [];
  for (const plan of plans) {
    const shown = new Map<string, PageImage>();
    for (const name of imagesIn(plan)) shown.set(imageKey(name), await imageOf(name));
    for (const layer of plan.layers) {
      if (layer.kind !== "scene") continue;
      for (const part of layer.parts) if (part.kind === "words") await needFonts(part.sheet);
    }
    const { width, height } = plan.size;
    const surface = (): { canvas: OffscreenCanvas; context: OffscreenCanvasRenderingContext2D } => {
      const canvas = new OffscreenCanvas(width, height);
      return { canvas, context: present(canvas.getContext("2d", { willReadFrequently: true })) };
    };
    const main = surface();
    const second = surface();
    drawFrame<CanvasImageSource>(main.context, plan, {
      images: (name) => shown.get(imageKey(name)) ?? null,
      grain: () => ({ image: grain, width: SIDE, height: SIDE }),
      words: words.get,
      scratch: () => ({ surface: second.context, image: second.canvas, width, height }),
    });
    const { data } = main.context.getImageData(0, 0, width, height);
    let text = "";
    for (let i = 0; i < data.length; i += 0x8000) text += String.fromCharCode(...data.subarray(i, i + 0x8000));
    drawn.push(btoa(text));
  }
  return drawn;
}

Object.assign(globalThis, { drawInPage });

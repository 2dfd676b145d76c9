import { type DrawableImage, drawFrame, type FramePlan, type WordSheet } from "@humming-tide/core/picture";
import { type FontFile, filesForWords, HarfBuzzShaper, WordImages } from "@humming-tide/core/words";

/** Runs inside the page: draws planned frames there with the pictures of the server, as the stage does, and gives back their pixels. */
async function drawInPage(plans: readonly FramePlan[]): Promise<string[]> {
  const images = new Map<string, DrawableImage<CanvasImageSource>>();
  const load = async (picture: string, kind: "picture" | "fill"): Promise<void> => {
    const key = `${kind} ${picture}`;
    if (images.has(key)) return;
    const response = await fetch(`/api/media/${picture}/${kind === "fill" ? "fill" : "working"}`);
    const image = await createImageBitmap(await response.blob());
    images.set(key, { image, width: image.width, height: image.height });
  };
  const files = (await (await fetch("/api/film-fonts")).json()) as FontFile[];
  const fonts = { files, shaper: new HarfBuzzShaper() };
  const needFonts = async (sheet: WordSheet): Promise<void> => {
    for (const name of filesForWords(fonts, sheet)) {
      if (fonts.shaper.isLoaded(name)) continue;
      fonts.shaper.add(name, new Uint8Array(await (await fetch(`/api/film-fonts/${name}`)).arrayBuffer()));
    }
  };
  const words = new WordImages<CanvasImageSource>(fonts, 1, (width, height) => {
    const image = new OffscreenCanvas(width, height);
    return { surface: image.getContext("2d")!, image, width, height };
  });
  const drawn: string[] = [];
  for (const plan of plans) {
    for (const layer of plan.layers) {
      if (layer.kind !== "scene") continue;
      if (layer.ground?.kind === "image") await load(layer.ground.picture, layer.ground.of);
      for (const part of layer.parts) {
        if (part.kind === "picture") await load(part.picture, "picture");
        else await needFonts(part.sheet);
      }
    }
    const { width, height } = plan.size;
    const surface = (): { canvas: OffscreenCanvas; context: OffscreenCanvasRenderingContext2D } => {
      const canvas = new OffscreenCanvas(width, height);
      return { canvas, context: canvas.getContext("2d", { willReadFrequently: true })! };
    };
    const main = surface();
    const second = surface();
    drawFrame<CanvasImageSource>(main.context, plan, {
      images: (picture, kind) => images.get(`${kind} ${picture}`) ?? null,
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

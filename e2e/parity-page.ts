import { type DrawableImage, drawFrame, type FramePlan } from "@humming-tide/core/picture";

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
  const drawn: string[] = [];
  for (const plan of plans) {
    for (const layer of plan.layers) {
      if (layer.kind !== "picture") continue;
      await load(layer.picture, "picture");
      if (layer.ground?.kind === "image") await load(layer.ground.picture, layer.ground.of);
    }
    const { width, height } = plan.size;
    const surface = (): { canvas: OffscreenCanvas; context: OffscreenCanvasRenderingContext2D } => {
      const canvas = new OffscreenCanvas(width, height);
      return { canvas, context: canvas.getContext("2d", { willReadFrequently: true })! };
    };
    const main = surface();
    const second = surface();
    drawFrame<CanvasImageSource>(
      main.context,
      plan,
      (picture, kind) => images.get(`${kind} ${picture}`) ?? null,
      () => ({ surface: second.context, image: second.canvas, width, height }),
    );
    const { data } = main.context.getImageData(0, 0, width, height);
    let text = "";
    for (let i = 0; i < data.length; i += 0x8000) text += String.fromCharCode(...data.subarray(i, i + 0x8000));
    drawn.push(btoa(text));
  }
  return drawn;
}

Object.assign(globalThis, { drawInPage });

import { drawFrame, type FramePlan } from "@humming-tide/core/picture";
import { createCanvas } from "@napi-rs/canvas";
import { type PictureCache, surfaceOf } from "./picture-cache.ts";

/** One frame as RGBA, row by row, drawn as the export draws it. Throws `missing-picture`. */
export async function drawStill(plan: FramePlan, pictures: PictureCache): Promise<Uint8Array> {
  const { width, height } = plan.size;
  const needed = plan.layers.flatMap((layer) =>
    layer.kind === "picture" ? [layer.picture, ...(layer.ground?.kind === "image" ? [layer.ground.picture] : [])] : [],
  );
  await pictures.need([...new Set(needed)]);
  const [canvas, second] = [createCanvas(width, height), createCanvas(width, height)];
  drawFrame(surfaceOf(canvas), plan, pictures.get, () => ({
    surface: surfaceOf(second),
    image: second,
    width,
    height,
  }));
  return canvas.data();
}

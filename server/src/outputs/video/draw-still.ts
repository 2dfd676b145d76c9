import { drawFrame, type FramePlan } from "@humming-tide/core/picture";
import { createCanvas } from "@napi-rs/canvas";
import { ClipFrames } from "./clip-frames.ts";
import { FilmSources } from "./film-sources.ts";
import { type PictureCache, surfaceOf } from "./picture-cache.ts";

/**
 * One frame as RGBA, row by row, drawn as the export draws it; of clips their posters. Throws
 * `missing-picture`, `bad-font`.
 */
export async function drawStill(plan: FramePlan, pictures: PictureCache): Promise<Uint8Array> {
  const sources = new FilmSources(pictures, NO_CLIPS, plan.size);
  await sources.preload(withoutClips(plan));
  const canvas = createCanvas(plan.size.width, plan.size.height);
  drawFrame(surfaceOf(canvas), plan, sources);
  return canvas.data();
}

const NO_CLIPS = new ClipFrames(() => "");

const withoutClips = (plan: FramePlan): FramePlan => ({
  ...plan,
  layers: plan.layers.map((layer) =>
    layer.kind === "scene"
      ? { ...layer, parts: layer.parts.map((part) => (part.kind === "picture" ? { ...part, clip: null } : part)) }
      : layer,
  ),
});

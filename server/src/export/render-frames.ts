import { drawFrame, type FramePlan, type PictureTrack, picturesBetween, planFrame } from "@humming-tide/core/picture";
import { createCanvas } from "@napi-rs/canvas";
import type { PictureCache } from "./picture-cache.ts";
import { rgbaToYuv420 } from "./yuv.ts";

/**
 * Draws a film's frames from `fromFrame` (inclusive) to `toFrame` (exclusive) and hands each over as planar YUV 4:2:0, BT.709. A frame whose plan equals the
 * one before is handed over again without drawing. `write` may keep the bytes only until it resolves.
 */
export async function renderFrames(
  track: PictureTrack,
  pictures: PictureCache,
  fromFrame: number,
  toFrame: number,
  write: (yuv: Uint8Array, frame: number) => Promise<void>,
): Promise<void> {
  const { width, height } = track.size;
  const canvas = createCanvas(width, height);
  const surface = canvas.getContext("2d");
  // Two buffers in turn: the pipe may still hold the last one while the next is drawn.
  const buffers = [0, 1].map(() => new Uint8Array((width * height * 3) / 2));
  let turn = 0;
  let shown = "";
  for (let frame = fromFrame; frame < toFrame; frame++) {
    const plan = planFrame(track, frame);
    const key = frameKey(plan);
    if (key !== shown) {
      await pictures.need(picturesBetween(track, frame, frame));
      drawFrame(surface, plan, pictures.get);
      turn = 1 - turn;
      rgbaToYuv420(canvas.data(), width, height, buffers[turn]!);
      shown = key;
    }
    await write(buffers[turn]!, frame);
  }
}

/** Equal for two frames exactly if they look equal: size, fill and framing follow from the track and the picture. */
const frameKey = (plan: FramePlan): string =>
  `${plan.layers.map((layer) => `${layer.picture}@${layer.alpha}`).join("+")}*${plan.darkness}`;

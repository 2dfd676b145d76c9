import { drawFrame, imagesBetween, type PictureTrack, planFrame, repeatsFrame } from "@humming-tide/core/picture";
import { createCanvas } from "@napi-rs/canvas";
import type { ClipFrames } from "./clip-frames.ts";
import { FilmSources } from "./film-sources.ts";
import { type PictureCache, surfaceOf } from "./picture-cache.ts";
import { rgbaToYuv420 } from "./yuv.ts";

/**
 * Draws a film's frames from `fromFrame` (inclusive) to `toFrame` (exclusive) and hands each over as planar YUV 4:2:0, BT.709. A frame in which
 * nothing moves is drawn once and handed over again. `write` may keep the bytes only until it resolves.
 */
export async function renderFrames(
  track: PictureTrack,
  pictures: PictureCache,
  clips: ClipFrames,
  fromFrame: number,
  toFrame: number,
  write: (yuv: Uint8Array, frame: number) => Promise<void>,
): Promise<void> {
  const { width, height } = track.size;
  const canvas = createCanvas(width, height);
  const surface = surfaceOf(canvas);
  const sources = new FilmSources(pictures, clips, track.size);
  // Two buffers in turn: the pipe may still hold the last one while the next is drawn.
  const buffers = [0, 1].map(() => new Uint8Array((width * height * 3) / 2));
  let turn = 0;
  for (let frame = fromFrame; frame < toFrame; frame++) {
    if (frame === fromFrame || !repeatsFrame(track, frame)) {
      const plan = planFrame(track, frame);
      await sources.need(plan, imagesBetween(track, frame, frame));
      drawFrame(surface, plan, sources);
      turn = 1 - turn;
      rgbaToYuv420(canvas.data(), width, height, buffers[turn]!);
    }
    await write(buffers[turn]!, frame);
  }
}

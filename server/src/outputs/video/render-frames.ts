import { imagesBetween, type PictureTrack, planFrame, repeatsFrame } from "@humming-tide/core/picture";
import { itemAt } from "@humming-tide/core/presence";
import type { FramePainter } from "./frame-painter.ts";

/**
 * Draws a film's frames from `fromFrame` (inclusive) to `toFrame` (exclusive) and hands each over
 * as planar YUV 4:2:0, BT.709. A frame in which nothing moves is drawn once and handed over again.
 * `write` may keep the bytes until it is called the next time but one.
 */
export async function renderFrames(
  track: PictureTrack,
  painter: FramePainter,
  fromFrame: number,
  toFrame: number,
  write: (yuv: Uint8Array, frame: number) => Promise<void>,
): Promise<void> {
  const { width, height } = track.size;
  // The pipe may still hold the last frame, and the one before, while the next is drawn.
  const buffers = [0, 1, 2].map(() => new Uint8Array((width * height * 3) / 2));
  let turn = 0;
  for (let frame = fromFrame; frame < toFrame; frame++) {
    if (frame === fromFrame || !repeatsFrame(track, frame)) {
      turn = (turn + 1) % buffers.length;
      itemAt(buffers, turn).set(await painter.paint(planFrame(track, frame), imagesBetween(track, frame, frame)));
    }
    await write(itemAt(buffers, turn), frame);
  }
}

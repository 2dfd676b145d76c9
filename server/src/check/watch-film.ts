import { setImmediate } from "node:timers/promises";
import { type Bars, barsIn, type FlashStretch, FlashWatch, mayHaveBars } from "@humming-tide/core/check";
import type { FilmPlan } from "@humming-tide/core/film";
import { imagesBetween, planFrame, repeatsFrame } from "@humming-tide/core/picture";
import { framesPerSecond } from "@humming-tide/core/time";
import type { ClipFrames } from "../outputs/video/clip-frames.ts";
import { FramePainter } from "../outputs/video/frame-painter.ts";
import type { PathOfImage } from "../outputs/video/picture-cache.ts";
import { rgbaOfPlanes } from "./rgba-of-planes.ts";

export interface SeenFilm {
  readonly flashes: readonly FlashStretch[];
  /** By slot index. */
  readonly bars: ReadonlyMap<number, Bars>;
}

/** So many frames are drawn before others get their turn. */
const FRAMES_A_TURN = 8;

/**
 * Draws every frame of a film that is planned in the size of `flashSize`, and watches for flashes
 * and for bars in pictures. Throws `missing-picture`, `ffmpeg-failed`, `bad-font`, and the signal's
 * reason.
 */
export async function watchFilm(
  plan: FilmPlan,
  path: PathOfImage,
  clips: ClipFrames,
  signal: AbortSignal,
  onFrame: (framesDone: number) => void,
): Promise<SeenFilm> {
  const { width, height } = plan.size;
  const painter = new FramePainter(plan.size, path, clips);
  const watch = new FlashWatch(plan.size, framesPerSecond(plan.rate));
  const rgba = new Uint8Array(4 * width * height);
  const bars = new Map<number, Bars>();
  const middles = new Map(
    plan.slots.map((slot, index) => [Math.floor((slot.startFrame + slot.endFrame) / 2), index] as const),
  );
  for (let frame = 0; frame < plan.totalFrames; frame++) {
    if (frame > 0 && repeatsFrame(plan, frame)) watch.repeat();
    else {
      rgbaOfPlanes(await painter.paint(planFrame(plan, frame), imagesBetween(plan, frame, frame)), plan.size, rgba);
      watch.see(rgba);
    }
    const index = middles.get(frame);
    if (index !== undefined && mayHaveBars(plan, index)) {
      const found = barsIn(rgba, width, height);
      if (found) bars.set(index, found);
    }
    onFrame(frame + 1);
    if (frame % FRAMES_A_TURN === 0) {
      await setImmediate();
      signal.throwIfAborted();
    }
  }
  return { flashes: watch.found, bars };
}

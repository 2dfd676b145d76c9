import { type Grid, indexOfNearestBeat } from "../grid/index.ts";
import { type FrameRate, type Frames, framesPerSecond, nearestFrame } from "../time/index.ts";

/**
 * The frame of the first or the last beat between two frames, both included; null where there is
 * none.
 */
export function beatFrame(
  beats: Grid["beats"],
  rate: FrameRate,
  from: number,
  to: number,
  which: "first" | "last",
): Frames | null {
  if (beats.length === 0) return null;
  const step = which === "first" ? 1 : -1;
  const near = indexOfNearestBeat(beats, (which === "first" ? from : to) / framesPerSecond(rate));
  for (const index of [near - step, near, near + step]) {
    const beat = beats[index];
    if (!beat) continue;
    const frame = nearestFrame(beat.seconds, rate);
    if (frame >= from && frame <= to) return frame;
  }
  return null;
}

import { median } from "../numeric/index.ts";
import { itemAt, present } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import type { ClipMoment, WatchedClip } from "./clip-moments.ts";
import { WATCHED_STEP_SECONDS } from "./clip-series.ts";
import { smoothed, withoutSpikes } from "./smoothing.ts";
import type { UsablePart } from "./usable-part.ts";

/** A part of a long clip that can stand for it. */
export interface ClipStretch {
  readonly startSeconds: Seconds;
  /** Exclusive. */
  readonly endSeconds: Seconds;
  /** The strongest moment inside; null where there is none. */
  readonly moment: ClipMoment | null;
}

/** Shorter clips are shown as a whole. */
export const LONG_CLIP_SECONDS = 15;
export const STRETCH_SECONDS = 6;
const MOST_STRETCHES = 3;
/** Where in a stretch its moment lies: there is more to see before it than behind it. */
const MOMENT_SHARE = 0.6;
const STEP_SECONDS = 0.5;
/** Camera speed, in picture sides a second, at which a stretch is worth nothing. */
const WILD_CAMERA = 1;

/**
 * Up to three stretches of a long clip, in the order of the clip, that do not overlap: first around
 * its strongest moments, then where most moves and faces are near under a calm camera. Empty for
 * clips shorter than `LONG_CLIP_SECONDS`. `moments` come strongest first. O(steps).
 */
export function bestStretches(
  clip: WatchedClip,
  { start, end }: UsablePart,
  moments: readonly ClipMoment[],
): ClipStretch[] {
  const whole = clip.seen.movement.length * WATCHED_STEP_SECONDS;
  if (whole < LONG_CLIP_SECONDS) return [];
  const [first, last] = [start?.seconds ?? 0, whole - (end?.seconds ?? 0) - STRETCH_SECONDS];
  const around = moments.map(({ seconds }) =>
    Math.max(first, Math.min(last, seconds - MOMENT_SHARE * STRETCH_SECONDS)),
  );
  const kept: number[] = [];
  for (const startSeconds of [...around, ...liveliest(clip, first, last)]) {
    const isFree = kept.every((other) => Math.abs(other - startSeconds) >= STRETCH_SECONDS);
    if (isFree && kept.length < MOST_STRETCHES) kept.push(startSeconds);
  }
  return kept
    .sort((a, b) => a - b)
    .map((startSeconds) => {
      const endSeconds = startSeconds + STRETCH_SECONDS;
      const moment = moments.find(({ seconds }) => seconds >= startSeconds && seconds < endSeconds) ?? null;
      return { startSeconds, endSeconds, moment };
    });
}

/** Starts of stretches that are worth more than the clip mostly is, the best first. */
function liveliest(clip: WatchedClip, first: Seconds, last: Seconds): Seconds[] {
  const sums = [0];
  for (const worth of worthOf(clip)) sums.push(present(sums.at(-1)) + worth);
  const at = (seconds: Seconds): number =>
    itemAt(sums, Math.min(sums.length - 1, Math.round(seconds / WATCHED_STEP_SECONDS)));
  const mean = (present(sums.at(-1)) / (sums.length - 1)) * (STRETCH_SECONDS / WATCHED_STEP_SECONDS);
  const starts = Array.from({ length: Math.floor((last - first) / STEP_SECONDS) + 1 }, (_, i) => {
    const seconds = first + i * STEP_SECONDS;
    return { seconds, worth: at(seconds + STRETCH_SECONDS) - at(seconds) };
  });
  const best = starts.sort((a, b) => b.worth - a.worth || a.seconds - b.seconds);
  // One there is in any case.
  return best.filter(({ worth }, i) => i === 0 || worth > mean).map(({ seconds }) => seconds);
}

/** What each step is worth to look at: movement and faces, less the wilder the camera is. */
function worthOf({ seen, faces }: WatchedClip): number[] {
  const movement = smoothed(withoutSpikes(seen.movement), 0.2);
  const usual = Math.max(1e-3, median(movement));
  let face = 0;
  return movement.map((value, step) => {
    while (face + 1 < faces.length && itemAt(faces, face + 1).seconds <= step * WATCHED_STEP_SECONDS) face++;
    const speed = Math.hypot(itemAt(seen.cameraX, step), itemAt(seen.cameraY, step));
    const lively = Math.min(3, value / usual);
    return (0.5 + lively + 2 * (faces[face]?.height ?? 0)) * Math.max(0, 1 - speed / WILD_CAMERA);
  });
}

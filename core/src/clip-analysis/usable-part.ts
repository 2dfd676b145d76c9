import { median } from "../numeric/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { type ClipSeries, WATCHED_STEP_SECONDS } from "./clip-series.ts";
import { smoothed, withoutSpikes } from "./smoothing.ts";

export type TrimReason = "shaky" | "still" | "dark";

/** A part at an end of a clip that is better left out. */
export interface ProposedTrim {
  readonly reason: TrimReason;
  readonly seconds: Seconds;
}

/** What of a clip can be used: trims at its two ends; null where an end is good as it is. */
export interface UsablePart {
  readonly start: ProposedTrim | null;
  readonly end: ProposedTrim | null;
}

/** Changes of the camera's speed above this, in picture sides a second each second, are a shake. */
const LEAST_SHAKE = 3;
/** And so many times as much as in the middle of the clip. */
const SHAKE_RATIO = 3;
/** A shake ends where it is this much weaker than it mostly was. */
const SHAKE_END = 0.5;
const DARK = 10;
/** Movement of a scene in which hardly anything moves, and of one in which something does. */
const STILL_MOVEMENT = 1.2;
const LIVELY_MOVEMENT = 3;
/** A camera as calm as this, in picture sides a second, is not on its way to something. */
const CALM_CAMERA = 0.08;
/** Good steps this short between bad ones do not end a bad end. */
const GAP_SECONDS = 0.35;
const SHORTEST_TRIM_SECONDS = 0.3;
/** An end gives away no more than this of the clip. */
const LARGEST_SHARE = 0.4;
/** A scene may rest this long before it begins to move. */
const REST_SECONDS = 1;
/** Shorter rests stay as they are. */
const SHORTEST_STILL_SECONDS = 2.5;

/**
 * Trims at both ends of a clip: where it shakes or is dark, and at its start where nothing moves
 * for long before something does. A clip that is bad for more than `LARGEST_SHARE` from an end
 * keeps that end. O(steps log steps).
 */
export function usablePart(seen: ClipSeries): UsablePart {
  const shake = shakeOf(seen);
  const backwards = [...seen.brightness].reverse();
  return {
    start: badEnd(shake, seen.brightness) ?? stillStart(seen),
    end: badEnd([...shake].reverse(), backwards),
  };
}

/** How fast the camera changes its way, smoothed over a tenth of a second. */
function shakeOf({ cameraX, cameraY }: ClipSeries): number[] {
  const changes = cameraX.map((x, step) =>
    step < 2
      ? 0
      : Math.hypot(x - itemAt(cameraX, step - 1), itemAt(cameraY, step) - itemAt(cameraY, step - 1)) /
        WATCHED_STEP_SECONDS,
  );
  return smoothed(changes, 0.1);
}

/** The end of the curves that comes first: as long as it shakes or is dark. */
function badEnd(shake: readonly number[], brightness: readonly number[]): ProposedTrim | null {
  const usual = SHAKE_RATIO * median(shake);
  const isDark = (step: number): boolean => itemAt(brightness, step) < DARK;
  const isShaky = (step: number): boolean => itemAt(shake, step) > Math.max(LEAST_SHAKE, usual);
  const dark = runOf(brightness.length, isDark);
  const shaken = runOf(shake.length, (step) => isShaky(step) || isDark(step));
  if (shaken > dark) {
    // The curve is smooth: its slope behind the shake is none of it.
    const mostly = median(shake.slice(0, shaken));
    const own = shake.slice(0, shaken).findLastIndex((strength) => strength > SHAKE_END * mostly) + 1;
    return trim("shaky", own, shake.length);
  }
  return trim("dark", dark, brightness.length);
}

function stillStart(seen: ClipSeries): ProposedTrim | null {
  const movement = smoothed(withoutSpikes(seen.movement), 0.1);
  if (!movement.some((value) => value > LIVELY_MOVEMENT)) return null;
  const speed = smoothed(
    seen.cameraX.map((x, step) => Math.hypot(x, itemAt(seen.cameraY, step))),
    0.2,
  );
  const still = runOf(
    movement.length,
    (step) => itemAt(movement, step) < STILL_MOVEMENT && itemAt(speed, step) < CALM_CAMERA,
  );
  if (still * WATCHED_STEP_SECONDS < SHORTEST_STILL_SECONDS) return null;
  return trim("still", still - Math.round(REST_SECONDS / WATCHED_STEP_SECONDS), movement.length);
}

/** Steps from the first on for which something holds, short gaps included. */
function runOf(count: number, holds: (step: number) => boolean): number {
  let end = 0;
  for (let step = 0; step < count && (step - end) * WATCHED_STEP_SECONDS <= GAP_SECONDS; step++)
    if (holds(step)) end = step + 1;
  return end;
}

function trim(reason: TrimReason, steps: number, of: number): ProposedTrim | null {
  const seconds = steps * WATCHED_STEP_SECONDS;
  return seconds < SHORTEST_TRIM_SECONDS || steps > LARGEST_SHARE * of ? null : { reason, seconds };
}

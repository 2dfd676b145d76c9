import { present } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import type { DecibelCurve } from "./decibel-curve.ts";

/** How music makes room for speech. */
export interface Ducking {
  /** By how much it goes down: 0 and more. */
  readonly decibels: number;
  /** It has sunk when the first word begins: this long before, it starts to. */
  readonly attackSeconds: Seconds;
  /** It stays down this long after the last word. */
  readonly holdSeconds: Seconds;
  readonly releaseSeconds: Seconds;
}

/** From `startSeconds` (inclusive) to `endSeconds` (exclusive). */
interface Stretch {
  readonly startSeconds: Seconds;
  readonly endSeconds: Seconds;
}

/**
 * The level of the music under speech, in decibels over film time: straight lines down before each
 * stretch, held, and up again behind it. Stretches so near to each other that the music would not
 * come back are one; where it has come back part of the way, it turns there. `speech` in any order,
 * overlaps allowed. Empty without speech. O(n log n).
 */
export function duckingCurve(speech: readonly Stretch[], ducking: Ducking): DecibelCurve {
  const { decibels: depth, attackSeconds, holdSeconds, releaseSeconds } = ducking;
  if (depth <= 0) return [];
  const sorted = [...speech].sort((a, b) => a.startSeconds - b.startSeconds);
  const held: { start: number; end: number }[] = [];
  for (const { startSeconds, endSeconds } of sorted) {
    const last = held.at(-1);
    // In the time that is left between them the music could neither rise nor sink to be heard.
    if (last && startSeconds <= last.end) last.end = Math.max(last.end, endSeconds + holdSeconds);
    else held.push({ start: startSeconds, end: endSeconds + holdSeconds });
  }
  const points: { seconds: Seconds; decibels: number }[] = [];
  for (const [i, { start, end }] of held.entries()) {
    const before = held[i - 1];
    const gap = before ? start - before.end : Number.POSITIVE_INFINITY;
    if (gap >= attackSeconds + releaseSeconds) {
      if (before) points.push({ seconds: before.end + releaseSeconds, decibels: 0 });
      points.push({ seconds: start - attackSeconds, decibels: 0 });
    } else {
      // Rising from one and sinking to the next cross at this share of the way up.
      const share = gap / (attackSeconds + releaseSeconds);
      points.push({ seconds: present(before).end + share * releaseSeconds, decibels: -depth * (1 - share) });
    }
    points.push({ seconds: start, decibels: -depth }, { seconds: end, decibels: -depth });
  }
  const last = held.at(-1);
  if (last) points.push({ seconds: last.end + releaseSeconds, decibels: 0 });
  return points;
}

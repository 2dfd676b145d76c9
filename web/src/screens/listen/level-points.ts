import type { LevelPoint } from "@humming-tide/core/show";
import { piecewiseLinear } from "@humming-tide/core/sound";

/**
 * What the lane shows; a point may be moved within it. Lower than this a song is hardly heard
 * beside anything.
 */
export const HIGHEST_DECIBELS = 6;
export const LOWEST_DECIBELS = -36;
/** Points keep at least this distance, so that each can be taken hold of. */
const CLOSEST_SECONDS = 0.05;

/** A curve with one point more, instead of those too near to it. */
export const withPoint = (level: readonly LevelPoint[], point: LevelPoint): LevelPoint[] =>
  [...level.filter(({ seconds }) => Math.abs(seconds - point.seconds) >= CLOSEST_SECONDS), point].sort(
    (a, b) => a.seconds - b.seconds,
  );

/** A curve with one point at another place, between its neighbours and within the lane. */
export function withMoved(
  level: readonly LevelPoint[],
  index: number,
  to: LevelPoint,
  durationSeconds: number,
): LevelPoint[] {
  const [before, after] = [level[index - 1], level[index + 1]];
  const lowest = before ? before.seconds + CLOSEST_SECONDS : 0;
  const highest = after ? after.seconds - CLOSEST_SECONDS : durationSeconds;
  const seconds = Math.max(lowest, Math.min(highest, to.seconds));
  const decibels = Math.max(LOWEST_DECIBELS, Math.min(HIGHEST_DECIBELS, to.decibels));
  return level.with(index, { seconds, decibels });
}

/** The curve from the song's start to its end; without points it is even, at 0 dB. */
export function wholeCurve(level: readonly LevelPoint[], durationSeconds: number): LevelPoint[] {
  const [first, last] = [level[0]?.decibels ?? 0, level.at(-1)?.decibels ?? 0];
  return [{ seconds: 0, decibels: first }, ...level, { seconds: durationSeconds, decibels: last }];
}

/** Decibels of the curve at a time, to the half. */
export function levelAt(level: readonly LevelPoint[], seconds: number): number {
  const [first, last] = [level[0], level.at(-1)];
  if (!first || !last) return 0;
  const decibels = piecewiseLinear(
    level,
    (point) => point.seconds,
    (point) => point.decibels,
    Math.max(first.seconds, Math.min(last.seconds, seconds)),
  );
  return Math.round(2 * decibels) / 2;
}

import type { Seconds } from "../time/index.ts";
import { amplitude } from "./decibels.ts";
import type { GainCurve } from "./gain-curve.ts";
import { piecewiseLinearHeld } from "./piecewise-linear.ts";

/**
 * Level over time as straight lines in decibels, in order of time; before the first and after the
 * last it holds. Empty: 0 dB.
 */
export type DecibelCurve = readonly { readonly seconds: Seconds; readonly decibels: number }[];

/**
 * Between two points of a gain curve the level changes by this at most: drawn straight in gain, it
 * is then off by less than 0.02 dB.
 */
const STEP_DECIBELS = 0.75;

/**
 * The level of a curve at a time: straight between its points, held before the first and after the
 * last; 0 dB where it has none. O(log points).
 */
export const decibelsAt = (curve: DecibelCurve, seconds: Seconds): number =>
  curve.length === 0 ? 0 : piecewiseLinearHeld(curve, (point) => point.decibels, seconds);

/**
 * The lower of two curves at every time: exact at their points and where they cross. O(points log
 * points).
 */
export function lowerOf(a: DecibelCurve, b: DecibelCurve): DecibelCurve {
  if (a.length === 0 || b.length === 0) return lowerThanZero(a.length === 0 ? b : a);
  const times = [...new Set([...a, ...b].map(({ seconds }) => seconds))].sort((one, other) => one - other);
  const points: { seconds: Seconds; decibels: number }[] = [];
  for (const [i, seconds] of times.entries()) {
    const [here, there] = [decibelsAt(a, seconds), decibelsAt(b, seconds)];
    const before = times[i - 1];
    if (before !== undefined) {
      const [hereBefore, thereBefore] = [decibelsAt(a, before), decibelsAt(b, before)];
      const [was, is] = [hereBefore - thereBefore, here - there];
      if (was * is < 0) {
        const crossing = before + ((seconds - before) * was) / (was - is);
        points.push({ seconds: crossing, decibels: decibelsAt(a, crossing) });
      }
    }
    points.push({ seconds, decibels: Math.min(here, there) });
  }
  return points;
}

/** Against a curve without points, which is 0 dB. */
const lowerThanZero = (curve: DecibelCurve): DecibelCurve =>
  curve.map(({ seconds, decibels }) => ({ seconds, decibels: Math.min(0, decibels) }));

/** The same over gain, close enough for the ear. */
export function gainOfDecibels(curve: DecibelCurve): GainCurve {
  return curve.flatMap((point, i) => {
    const next = curve[i + 1];
    const parts = next ? Math.max(1, Math.ceil(Math.abs(next.decibels - point.decibels) / STEP_DECIBELS)) : 1;
    return Array.from({ length: parts }, (_, k) => ({
      seconds: point.seconds + (next ? ((next.seconds - point.seconds) * k) / parts : 0),
      gain: amplitude(point.decibels + (next ? ((next.decibels - point.decibels) * k) / parts : 0)),
    }));
  });
}

import { present } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { piecewiseLinearHeld } from "./piecewise-linear.ts";

/**
 * Gain over time as straight lines between points, in order of time; before the first and after the
 * last it holds. Empty: 1.
 */
export type GainCurve = readonly { readonly seconds: Seconds; readonly gain: number }[];

/**
 * Points in which a curve that is not straight is drawn: the error stays under 0.0002 of full gain
 * (0.002 dB above half).
 */
const CURVE_POINTS = 65;

/** The gain at a time. O(log points). */
export const gainAt = (curve: GainCurve, seconds: Seconds): number =>
  curve.length === 0 ? 1 : piecewiseLinearHeld(curve, (point) => point.gain, seconds);

/**
 * From 0 to 1: a quarter of a sine, for material that differs from what it is crossed with (equal
 * power).
 */
export function risingPower(startSeconds: Seconds, endSeconds: Seconds): GainCurve {
  return drawn(startSeconds, endSeconds, (share) => (share === 1 ? 1 : Math.sin((share * Math.PI) / 2)));
}

/** From 1 to 0: a quarter of a cosine. The instant on which it starts is still heard in full. */
export function sinkingPower(startSeconds: Seconds, endSeconds: Seconds): GainCurve {
  return drawn(startSeconds, endSeconds, (share) => (share === 1 ? 0 : Math.cos((share * Math.PI) / 2)));
}

function drawn(start: number, end: number, gainOf: (share: number) => number): GainCurve {
  return Array.from({ length: CURVE_POINTS }, (_, i) => {
    const share = i / (CURVE_POINTS - 1);
    return { seconds: start + share * (end - start), gain: gainOf(share) };
  });
}

/** The product of curves: exact at all of their points, straight between them. */
export function gainProduct(curves: readonly GainCurve[]): GainCurve {
  const bent = curves.filter((curve) => curve.length > 0);
  if (bent.length <= 1) return bent[0] ?? [];
  const times = [...new Set(bent.flatMap((curve) => curve.map((point) => point.seconds)))].sort((a, b) => a - b);
  return times.map((seconds) => ({
    seconds,
    gain: bent.reduce((product, curve) => product * gainAt(curve, seconds), 1),
  }));
}

/**
 * Multiplies samples by a curve, in place; sample 0 is at `startSeconds`. O(samples + points):
 * segments are walked, not searched, and where the gain is 1 nothing is touched.
 */
export function applyGain(curve: GainCurve, samples: Float32Array, startSeconds: Seconds, sampleRate: number): void {
  if (curve.length === 0) return;
  let i = 0;
  for (let segment = -1; segment < curve.length && i < samples.length; segment++) {
    const [left, right] = [curve[segment], curve[segment + 1]];
    const end = right
      ? Math.min(samples.length, Math.ceil((right.seconds - startSeconds) * sampleRate))
      : samples.length;
    if (end <= i) continue;
    const from = left?.gain ?? present(right).gain;
    const slope = left && right ? (right.gain - left.gain) / (right.seconds - left.seconds) : 0;
    if (slope === 0 && from === 1) {
      i = end;
      continue;
    }
    const origin = left?.seconds ?? 0;
    for (; i < end; i++) samples[i]! *= from + slope * (startSeconds + i / sampleRate - origin);
  }
}

import type { Seconds } from "../time/index.ts";
import { WATCHED_STEP_SECONDS } from "./clip-series.ts";

/**
 * A curve under a bell whose standard deviation is given; at the ends the bell is cut off. O(steps
 * x bell).
 */
export function smoothed(curve: readonly number[], deviationSeconds: Seconds): number[] {
  const deviation = deviationSeconds / WATCHED_STEP_SECONDS;
  const reach = Math.ceil(3 * deviation);
  const bell = Array.from({ length: 2 * reach + 1 }, (_, i) => Math.exp(-0.5 * ((i - reach) / deviation) ** 2));
  return curve.map((_, step) => {
    let [sum, weights] = [0, 0];
    for (let i = Math.max(0, step - reach); i <= Math.min(curve.length - 1, step + reach); i++) {
      const weight = bell[i - step + reach]!;
      sum += weight * curve[i]!;
      weights += weight;
    }
    return sum / weights;
  });
}

/** The middle of each five steps: what lasts only one or two is gone. Ends look inward. */
export function withoutSpikes(curve: readonly number[]): number[] {
  return curve.map((_, step) => {
    const five = curve.slice(Math.max(0, step - 2), step + 3).sort((a, b) => a - b);
    return five[five.length >> 1] ?? 0;
  });
}

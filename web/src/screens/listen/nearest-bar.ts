import { type Grid, indexOfNearestBeat } from "@humming-tide/core/grid";

/** The bar start nearest to a time; the time itself where there are no bars. */
export function nearestBar({ beats }: Grid, seconds: number): number {
  const bars = beats.filter((beat) => beat.position === 1);
  return bars[indexOfNearestBeat(bars, seconds)]?.seconds ?? seconds;
}

import type { MusicAnalysis } from "../music/index.ts";
import { itemAt } from "../presence/index.ts";
import { type Grid, indexOfNearestBeat } from "./grid.ts";

/**
 * Where phrases begin in a corrected grid: what was heard, drawn to the nearest bar start, so that
 * phrases follow when a person says where the one is. Rising, each bar start at most once; none
 * without bars. O(phrases log beats).
 */
export function phraseStarts(analysis: MusicAnalysis, grid: Grid): number[] {
  const bars = grid.beats.filter((beat) => beat.position === 1);
  if (bars.length === 0) return [];
  const starts = new Set(analysis.phrases.map((seconds) => itemAt(bars, indexOfNearestBeat(bars, seconds)).seconds));
  return [...starts].sort((a, b) => a - b);
}

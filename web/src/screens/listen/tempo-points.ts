import type { GridBeat } from "@humming-tide/core/grid";
import type { Stretch } from "@humming-tide/core/music";
import { itemAt, lastOf } from "@humming-tide/core/presence";

export interface TempoPoint {
  readonly seconds: number;
  /** Null where a line must not be drawn: across free time. */
  readonly bpm: number | null;
}

/**
 * Beats to each side that a point of the curve is the mean of: one beat's distance alone says more
 * about a player's hand than about the tempo.
 */
const REACH = 2;

/** The tempo over a song: at each beat that of the few beats around it. */
export function tempoPoints(beats: readonly GridBeat[], freeTime: readonly Stretch[]): TempoPoint[] {
  const points: TempoPoint[] = [];
  const runs: GridBeat[][] = [];
  for (const beat of beats) {
    const last = runs.at(-1)?.at(-1);
    const isApart = !last || freeTime.some((s) => s.startSeconds < beat.seconds && s.endSeconds > last.seconds);
    if (isApart) runs.push([beat]);
    else lastOf(runs).push(beat);
  }
  for (const run of runs) {
    if (run.length < 2) continue;
    if (points.length > 0) points.push({ seconds: itemAt(run, 0).seconds, bpm: null });
    for (const [i, { seconds }] of run.entries()) {
      const from = Math.max(0, i - REACH);
      const to = Math.min(run.length - 1, i + REACH);
      points.push({ seconds, bpm: (60 * (to - from)) / (itemAt(run, to).seconds - itemAt(run, from).seconds) });
    }
  }
  return points;
}

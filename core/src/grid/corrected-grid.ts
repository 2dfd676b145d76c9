import type { Beat, MusicAnalysis } from "../music/index.ts";
import { applyGridEdit } from "./apply-grid-edit.ts";
import type { Grid } from "./grid.ts";
import type { GridEdit } from "./grid-edit.ts";

/**
 * The grid of an analysis after a person's edits, in their order. The edits name times, not beats, so they mean the same
 * after a better analysis. Pure; O(beats * edits). An edit that finds nothing to do (no beat near) changes nothing.
 */
export function correctedGrid(analysis: MusicAnalysis, edits: readonly GridEdit[]): Grid {
  const heard: Grid = {
    beats: analysis.beats,
    beatsPerBar: usualBeatsPerBar(analysis.beats),
    freeTime: analysis.freeTime,
  };
  const corrected = edits.reduce(applyGridEdit, heard);
  // Only now, so that a nudge to and fro loses no beat at the start of the song.
  return { ...corrected, beats: corrected.beats.filter((beat) => beat.seconds >= 0) };
}

/** The count of most bars, the longer of equally usual ones; 4 where there is no whole bar. */
function usualBeatsPerBar(beats: readonly Beat[]): number {
  const counts = new Map<number, number>();
  for (const [i, beat] of beats.entries()) {
    const next = beats[i + 1];
    if (next?.position === 1 && beat.position > 0) counts.set(beat.position, (counts.get(beat.position) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1] || b[0] - a[0])[0]?.[0] ?? 4;
}

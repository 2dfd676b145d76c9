import type { MusicAnalysis } from "../music/index.ts";
import { applyGridEdit } from "./apply-grid-edit.ts";
import { commonestBeatsPerBar } from "./beats-per-bar.ts";
import type { Grid } from "./grid.ts";
import type { GridEdit } from "./grid-edit.ts";

/** Where no whole bar was heard: common practice. */
const DEFAULT_BEATS_PER_BAR = 4;

/**
 * The grid of an analysis after a person's edits, in their order. The edits name times, not beats,
 * so they mean the same after a better analysis. Pure; O(beats * edits). An edit that finds nothing
 * to do (no beat near) changes nothing.
 */
export function correctedGrid(analysis: MusicAnalysis, edits: readonly GridEdit[]): Grid {
  const heard: Grid = {
    beats: analysis.beats,
    beatsPerBar: commonestBeatsPerBar(analysis.beats) ?? DEFAULT_BEATS_PER_BAR,
    freeTime: analysis.freeTime,
  };
  const corrected = edits.reduce(applyGridEdit, heard);
  // Only now, so that a nudge to and fro loses no beat at the start of the song.
  return { ...corrected, beats: corrected.beats.filter((beat) => beat.seconds >= 0) };
}

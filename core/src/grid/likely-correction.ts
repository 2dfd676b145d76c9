import { type Doubt } from "../music/index.ts";
import { median } from "../numeric/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { type Grid, isAcrossFreeTime } from "./grid.ts";
import type { BeatLevel, GridEdit } from "./grid-edit.ts";

/** So many beats on each side of a doubt tell how fast the music is there. */
const NEIGHBOURS = 8;
const FEWEST_NEIGHBOURS = 4;
/** Gaps are taken for a multiple of each other within this share. */
const TOLERANCE = 0.15;

/** Gaps in a doubt, as multiples of those around it, and the level that makes them alike. */
const LEVELS: readonly (readonly [number, BeatLevel])[] = [
  [1 / 2, "half"],
  [1 / 3, "third"],
  [2, "twice"],
  [3, "triple"],
];

/**
 * The one correction that most likely puts a doubtful stretch right, judged by the beats on both
 * sides of it: another level, beats through a stretch without any, even beats, or the bar's usual
 * count. Null where the neighbours do not tell. O(beats).
 *
 * @example `likelyCorrection(grid, { startSeconds: 0, endSeconds: 37, reason: "tempo" })` is half
 * the beats from 0 to 37 s where those behind it are twice as far apart.
 */
export function likelyCorrection(grid: Grid, { startSeconds, endSeconds, reason }: Doubt): GridEdit | null {
  const before = grid.beats.filter(({ seconds }) => seconds <= startSeconds).slice(-NEIGHBOURS - 1);
  const after = grid.beats.filter(({ seconds }) => seconds >= endSeconds).slice(0, NEIGHBOURS + 1);
  const around = [...gaps(grid, before), ...gaps(grid, after)];
  if (around.length < FEWEST_NEIGHBOURS) return null;
  const usual = median(around);
  const stretch = { startSeconds, endSeconds };
  if (reason === "free") return { kind: "fixedTempo", ...stretch, bpm: rounded(60 / usual) };
  const inside = gaps(
    grid,
    grid.beats.filter(({ seconds }) => seconds >= startSeconds && seconds <= endSeconds),
  );
  if (inside.length === 0) return null;
  const ratio = median(inside) / usual;
  const level = LEVELS.find(([multiple]) => Math.abs(ratio / multiple - 1) <= TOLERANCE)?.[1];
  if (level) return { kind: "stretchLevel", level, ...stretch };
  if (Math.abs(ratio - 1) > TOLERANCE) return null;
  return reason === "bar"
    ? { kind: "meter", beatsPerBar: grid.beatsPerBar, seconds: startSeconds }
    : { kind: "fixedTempo", ...stretch, bpm: null };
}

/** Whether a person has corrected something within a doubt. */
export function isAnswered({ startSeconds, endSeconds }: Doubt, edits: readonly GridEdit[]): boolean {
  return edits.some((edit) => {
    if ("startSeconds" in edit) return edit.startSeconds < endSeconds && edit.endSeconds > startSeconds;
    return timesOf(edit).some((seconds) => seconds >= startSeconds - 0.01 && seconds <= endSeconds + 0.01);
  });
}

function timesOf(edit: GridEdit): readonly Seconds[] {
  if (edit.kind === "given") return edit.beats.map(({ seconds }) => seconds);
  if (!("seconds" in edit)) return [];
  return typeof edit.seconds === "number" ? [edit.seconds] : edit.seconds;
}

function gaps(grid: Grid, beats: Grid["beats"]): number[] {
  return beats.slice(1).flatMap((beat, i) => {
    const last = itemAt(beats, i);
    return isAcrossFreeTime(grid, last, beat) ? [] : [beat.seconds - last.seconds];
  });
}

const rounded = (bpm: number): number => Math.max(20, Math.min(400, Math.round(bpm * 100) / 100));

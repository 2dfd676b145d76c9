import { assertNever } from "../errors/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { barRecounted, recounted } from "./bar-count.ts";
import { CLOSEST_SECONDS, type Grid, type GridBeat, isAcrossFreeTime } from "./grid.ts";
import type { BeatLevel } from "./grid-edit.ts";

/** The grid felt at another level. Bars keep their count, so their length changes. O(beats). */
export function atLevel(grid: Grid, level: BeatLevel): Grid {
  switch (level) {
    case "twice":
      return divided(grid, 2);
    case "triple":
      return divided(grid, 3);
    case "half":
      return thinned(grid, 2);
    case "third":
      return thinned(grid, 3);
    default:
      return assertNever(level);
  }
}

/**
 * Another level from the start (inclusive) to the end (exclusive) alone. Bars are counted on from
 * the first one in it; from the first one behind it they are what they were. As it is where nothing
 * is to be divided or left out. O(beats).
 */
export function stretchAtLevel(grid: Grid, level: BeatLevel, startSeconds: Seconds, endSeconds: Seconds): Grid {
  const before = grid.beats.filter(({ seconds }) => seconds < startSeconds);
  const inside = grid.beats.filter(({ seconds }) => seconds >= startSeconds && seconds < endSeconds);
  const after = grid.beats.filter(({ seconds }) => seconds >= endSeconds);
  // The gap to the first beat behind the stretch is divided too.
  const closing = level === "twice" || level === "triple" ? after.slice(0, 1) : [];
  if (inside.length === 0 || inside.length + closing.length < 2) return grid;
  const changed = atLevel({ ...grid, beats: [...inside, ...closing] }, level).beats.filter(
    ({ seconds }) => seconds < endSeconds,
  );
  // Without a bar start of its own the stretch belongs to the bar that it lies in; with one, the
  // bar that it ends in is counted on behind it.
  const hasBars = before.length === 0 || inside.some(({ position }) => position === 1);
  const counted = hasBars ? changed : changed.map((beat) => ({ ...beat, position: 0 }));
  const beats = [...before, ...counted, ...after];
  return { ...grid, beats: barRecounted(beats, before.length + (hasBars ? changed.length : 0)) };
}

/**
 * Beats evenly between each two that are not across free time; bars keep their count from the first
 * one on.
 */
function divided(grid: Grid, parts: number): Grid {
  const beats = grid.beats.flatMap((beat, i): GridBeat[] => {
    const next = grid.beats[i + 1];
    if (!next || isAcrossFreeTime(grid, beat, next)) return [beat];
    const gap = next.seconds - beat.seconds;
    if (gap / parts < CLOSEST_SECONDS) return [beat];
    const between = Array.from({ length: parts - 1 }, (_, k) => ({
      seconds: beat.seconds + (gap * (k + 1)) / parts,
      position: 0,
      confidence: beat.confidence * 0.8,
    }));
    return [beat, ...between];
  });
  const first = grid.beats.findIndex((beat) => beat.position === 1);
  const start = first < 0 ? 0 : beats.indexOf(itemAt(grid.beats, first));
  return { ...grid, beats: recounted(beats, start, grid.beatsPerBar) };
}

/**
 * Every n-th beat, those that hold most of the bar starts (ties: the earlier); bars become n times
 * as long.
 */
function thinned(grid: Grid, n: number): Grid {
  const barStarts = Array.from(
    { length: n },
    (_, offset) => grid.beats.filter((beat, i) => i % n === offset && beat.position === 1).length,
  );
  const offset = barStarts.indexOf(Math.max(...barStarts));
  const kept = grid.beats.filter((_, i) => i % n === offset);
  const one = kept.findIndex((beat) => beat.position === 1);
  return { ...grid, beats: recounted(kept, Math.max(0, one), grid.beatsPerBar) };
}

import { assertNever } from "../errors/index.ts";
import { itemAt, lastOf } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { barRecounted, countedBackward, countedForward } from "./bar-count.ts";
import { atLevel, stretchAtLevel } from "./beat-level.ts";
import { commonestBeatsPerBar } from "./beats-per-bar.ts";
import { CLOSEST_SECONDS, type Grid, type GridBeat, indexOfNearestBeat, isAcrossFreeTime } from "./grid.ts";
import type { GridEdit } from "./grid-edit.ts";

/** A beat farther away than this is not what a person pointed at. */
const POINTING_SECONDS = 0.5;
/** Bars to each side of a dragged beat that follow it, where no anchor is nearer. */
const DRAG_BARS = 2;

/**
 * The grid after one more edit. Pure; an edit that finds nothing to do returns the grid as it is.
 * O(beats).
 */
export function applyGridEdit(grid: Grid, edit: GridEdit): Grid {
  switch (edit.kind) {
    case "twice":
    case "triple":
    case "half":
    case "third":
      return atLevel(grid, edit.kind);
    case "stretchLevel":
      return stretchAtLevel(grid, edit.level, edit.startSeconds, edit.endSeconds);
    case "oneHere":
      return oneHere(grid, edit.seconds);
    case "meter":
      return withMeter(grid, edit.beatsPerBar, edit.seconds);
    case "nudge":
      return nudged(grid, edit.milliseconds / 1000);
    case "drag":
      return dragged(grid, edit.seconds, edit.toSeconds);
    case "fixedTempo":
      return evened(grid, edit.startSeconds, edit.endSeconds, edit.bpm);
    case "freeTime":
      return freed(grid, edit.startSeconds, edit.endSeconds);
    case "addBeat":
      return withBeat(grid, edit.seconds);
    case "deleteBeat":
      return withoutBeat(grid, edit.seconds);
    case "tapped":
      return withTapped(grid, edit.seconds);
    case "given":
      return withGiven(grid, edit.beats);
    default:
      return assertNever(edit);
  }
}

function oneHere(grid: Grid, seconds: Seconds): Grid {
  const index = indexOfNearestBeat(grid.beats, seconds);
  if (index < 0) return grid;
  const beats = grid.beats.map((beat, i) => (i === index ? { ...beat, position: 1, one: true } : beat));
  const hasEarlierOne = beats.slice(0, index).some((beat) => beat.one);
  const forward = countedForward(beats, index, grid.beatsPerBar);
  return { ...grid, beats: hasEarlierOne ? forward : countedBackward(forward, index, grid.beatsPerBar) };
}

/** The bar that holds `seconds` is the first with the new count. */
function withMeter(grid: Grid, beatsPerBar: number, seconds: Seconds): Grid {
  if (grid.beats.length === 0) return { ...grid, beatsPerBar };
  const next = grid.beats.findIndex((beat) => beat.seconds > seconds + CLOSEST_SECONDS / 2);
  const holding = next < 0 ? grid.beats.length - 1 : Math.max(0, next - 1);
  const barStart = grid.beats.findLastIndex((beat, i) => i <= holding && beat.position === 1);
  const first = barStart < 0 ? grid.beats.findIndex((beat) => beat.position === 1) : barStart;
  const start = Math.max(0, first);
  const counted = countedForward(grid.beats, start, beatsPerBar);
  const isFirstBar = !grid.beats.slice(0, start).some((beat) => beat.position === 1);
  return {
    ...grid,
    beatsPerBar: isFirstBar ? beatsPerBar : grid.beatsPerBar,
    beats: isFirstBar ? countedBackward(counted, start, beatsPerBar) : counted,
  };
}

function nudged(grid: Grid, bySeconds: Seconds): Grid {
  const moved = (seconds: Seconds): number => Math.max(0, seconds + bySeconds);
  return {
    ...grid,
    beats: grid.beats.map((beat) => ({ ...beat, seconds: beat.seconds + bySeconds })),
    freeTime: grid.freeTime
      .map((stretch) => ({ startSeconds: moved(stretch.startSeconds), endSeconds: moved(stretch.endSeconds) }))
      .filter((stretch) => stretch.endSeconds > stretch.startSeconds),
  };
}

/**
 * Neighbours keep their share of the way between the dragged beat and the anchors on both sides:
 * beats that a person placed, the edges of free time, or else the bar start DRAG_BARS bars away.
 * The dragged beat stays between its anchors.
 */
function dragged(grid: Grid, seconds: Seconds, toSeconds: Seconds): Grid {
  const index = indexOfNearestBeat(grid.beats, seconds);
  const beat = grid.beats[index];
  if (!beat || Math.abs(beat.seconds - seconds) > POINTING_SECONDS) return grid;
  const before = anchorFrom(grid, index, -1);
  const after = anchorFrom(grid, index, 1);
  const lowest = before === null ? 0 : itemAt(grid.beats, before).seconds + CLOSEST_SECONDS * (index - before);
  const highest = after === null ? Infinity : itemAt(grid.beats, after).seconds - CLOSEST_SECONDS * (after - index);
  if (lowest > highest) return grid;
  const target = Math.min(highest, Math.max(lowest, toSeconds));
  const shift = target - beat.seconds;
  const beats = grid.beats.map((other, i): GridBeat => {
    if (i === index) return { ...other, seconds: target, placed: true, confidence: 1 };
    const anchor = i < index ? before : after;
    const reaches = i < index ? anchor === null || i > anchor : anchor === null || i < anchor;
    if (!reaches) return other;
    const anchorSeconds = anchor === null ? null : itemAt(grid.beats, anchor).seconds;
    const share = anchorSeconds === null ? 1 : (other.seconds - anchorSeconds) / (beat.seconds - anchorSeconds);
    return { ...other, seconds: other.seconds + shift * share };
  });
  return { ...grid, beats };
}

/**
 * Index of the beat that a drag does not move on one side; null where there is none up to the end
 * of the song.
 */
function anchorFrom(grid: Grid, index: number, step: 1 | -1): number | null {
  let bars = 0;
  for (let i = index + step; i >= 0 && i < grid.beats.length; i += step) {
    const beat = itemAt(grid.beats, i);
    const inner = itemAt(grid.beats, i - step);
    if (isAcrossFreeTime(grid, beat, inner)) return i - step === index ? null : i - step;
    if (beat.placed) return i;
    if (beat.position === 1 && ++bars === DRAG_BARS) return i;
  }
  return null;
}

/**
 * Even beats from the first to the last beat of a stretch; the count of bars goes on from the
 * first.
 */
function evened(grid: Grid, startSeconds: Seconds, endSeconds: Seconds, bpm: number | null): Grid {
  const inside = grid.beats.filter(
    (beat) => beat.seconds >= startSeconds - 0.001 && beat.seconds <= endSeconds + 0.001,
  );
  const first = inside[0];
  const last = inside.at(-1);
  const origin = first?.seconds ?? startSeconds;
  let times: number[];
  if (bpm !== null) {
    const count = Math.floor((endSeconds - origin) / (60 / bpm) + 0.001) + 1;
    times = Array.from({ length: Math.max(1, count) }, (_, i) => origin + (i * 60) / bpm);
  } else {
    if (!first || !last || inside.length < 3) return grid;
    times = inside.map((_, i) => first.seconds + ((last.seconds - first.seconds) * i) / (inside.length - 1));
  }
  return replaced(grid, times, startSeconds, endSeconds);
}

function freed(grid: Grid, startSeconds: Seconds, endSeconds: Seconds): Grid {
  if (endSeconds <= startSeconds) return grid;
  const apart = grid.freeTime.filter((s) => s.endSeconds < startSeconds || s.startSeconds > endSeconds);
  const touching = grid.freeTime.filter((s) => !apart.includes(s));
  const joined = {
    startSeconds: Math.min(startSeconds, ...touching.map((s) => s.startSeconds)),
    endSeconds: Math.max(endSeconds, ...touching.map((s) => s.endSeconds)),
  };
  return {
    ...grid,
    beats: grid.beats.filter((beat) => beat.seconds < startSeconds || beat.seconds >= endSeconds),
    freeTime: [...apart, joined].sort((a, b) => a.startSeconds - b.startSeconds),
  };
}

function withBeat(grid: Grid, seconds: Seconds): Grid {
  const near = grid.beats[indexOfNearestBeat(grid.beats, seconds)];
  if (seconds < 0 || (near && Math.abs(near.seconds - seconds) < CLOSEST_SECONDS)) return grid;
  const at = grid.beats.findIndex((beat) => beat.seconds > seconds);
  const index = at < 0 ? grid.beats.length : at;
  const added: GridBeat = { seconds, position: 0, confidence: 1, placed: true };
  return { ...grid, beats: barRecounted([...grid.beats.slice(0, index), added, ...grid.beats.slice(index)], index) };
}

function withoutBeat(grid: Grid, seconds: Seconds): Grid {
  const index = indexOfNearestBeat(grid.beats, seconds);
  const beat = grid.beats[index];
  if (!beat || Math.abs(beat.seconds - seconds) > POINTING_SECONDS) return grid;
  const rest = grid.beats.filter((_, i) => i !== index);
  // Where the one itself goes, its bar joins the bar before.
  return { ...grid, beats: index < rest.length ? barRecounted(rest, index) : rest };
}

function withTapped(grid: Grid, seconds: readonly Seconds[]): Grid {
  const [first, last] = [seconds[0], seconds.at(-1)];
  if (first === undefined || last === undefined) return grid;
  return replaced(grid, seconds, first, last);
}

/** As tapped beats, but with the bars that the file tells. */
function withGiven(grid: Grid, beatsOfFile: readonly { readonly seconds: Seconds; readonly position: number }[]): Grid {
  const given: (typeof beatsOfFile)[number][] = [];
  for (const beat of beatsOfFile) {
    if (beat.seconds - (given.at(-1)?.seconds ?? -1) >= CLOSEST_SECONDS) given.push(beat);
  }
  const [first, last] = [given[0], given.at(-1)];
  if (!first || !last) return grid;
  const placed = replaced(
    grid,
    given.map(({ seconds }) => seconds),
    first.seconds,
    last.seconds,
  );
  const start = placed.beats.findIndex((beat) => beat.seconds === first.seconds);
  let previous = placed.beats[start - 1]?.position ?? 0;
  const beats = placed.beats.map((beat, i): GridBeat => {
    const { position = 0 } = given[i - start] ?? {};
    if (position > 0) previous = position;
    else if (i >= start && i < start + given.length) previous = (previous % grid.beatsPerBar) + 1;
    else return beat;
    return { ...beat, position: previous };
  });
  return { ...grid, beats, beatsPerBar: commonestBeatsPerBar(given) ?? grid.beatsPerBar };
}

/**
 * Other beats in a stretch; those that come too near to the new ones at its edges go as well. The
 * bar count of the first goes on.
 */
function replaced(grid: Grid, times: readonly number[], startSeconds: Seconds, endSeconds: Seconds): Grid {
  const [from, to] = [Math.min(startSeconds, itemAt(times, 0)), Math.max(endSeconds, lastOf(times))];
  const spacing = times.length > 1 ? (to - itemAt(times, 0)) / Math.max(1, times.length - 1) : 2 * CLOSEST_SECONDS;
  const margin = Math.max(CLOSEST_SECONDS, Math.min(spacing, 2) / 2);
  const before = grid.beats.filter((beat) => beat.seconds < from && beat.seconds <= itemAt(times, 0) - margin);
  const after = grid.beats.filter((beat) => beat.seconds > to && beat.seconds >= lastOf(times) + margin);
  const replacedFirst = grid.beats[before.length];
  const isSame = replacedFirst && Math.abs(replacedFirst.seconds - itemAt(times, 0)) < margin;
  const previous = before.at(-1);
  const firstPosition =
    isSame && replacedFirst.position > 0
      ? replacedFirst.position
      : previous
        ? (previous.position % grid.beatsPerBar) + 1
        : 1;
  const fresh = times.map(
    (time, i): GridBeat => ({
      seconds: time,
      position: ((firstPosition - 1 + i) % grid.beatsPerBar) + 1,
      confidence: 1,
      placed: true,
    }),
  );
  return { ...grid, beats: [...before, ...fresh, ...after] };
}

import { assertNever } from "../failure/index.ts";
import type { Beat, MusicAnalysis } from "./analyse-music.ts";

/** A person's correction of the grid. Edits are kept, not their result, so that they survive a better analysis. */
export type GridEdit =
  | { readonly kind: "twice" }
  | { readonly kind: "half" }
  | { readonly kind: "oneHere"; readonly seconds: number }
  | { readonly kind: "nudge"; readonly milliseconds: number };

export interface Grid {
  readonly beats: readonly Beat[];
  readonly beatsPerBar: number;
}

/** The grid of an analysis after a person's edits, in their order. Pure; O(beats * edits). */
export function correctedGrid(analysis: MusicAnalysis, edits: readonly GridEdit[]): Grid {
  const beatsPerBar = analysis.meter ? Number.parseInt(analysis.meter, 10) : 4;
  return edits.reduce(applyEdit, { beats: analysis.beats, beatsPerBar });
}

function applyEdit(grid: Grid, edit: GridEdit): Grid {
  switch (edit.kind) {
    case "twice":
      return twice(grid);
    case "half":
      return half(grid);
    case "oneHere":
      return renumbered(grid, indexOfNearestBeat(grid.beats, edit.seconds));
    case "nudge":
      return { ...grid, beats: grid.beats.map((b) => ({ ...b, seconds: b.seconds + edit.milliseconds / 1000 })) };
    default:
      return assertNever(edit);
  }
}

/** A beat halfway between each two; bars keep their number of beats and so become half as long. */
function twice(grid: Grid): Grid {
  const beats = grid.beats.flatMap((beat, i) => {
    const next = grid.beats[i + 1];
    if (!next) return [beat];
    const between = { ...beat, seconds: (beat.seconds + next.seconds) / 2, confidence: beat.confidence * 0.8 };
    return [beat, between];
  });
  return renumbered({ ...grid, beats }, 2 * firstBar(grid));
}

/** Every second beat, the half that holds more of the bar starts (ties: the first); bars become twice as long. */
function half(grid: Grid): Grid {
  const barStarts = [0, 1].map((parity) => grid.beats.filter((b, i) => i % 2 === parity && b.position === 1).length);
  const parity = barStarts[1]! > barStarts[0]! ? 1 : 0;
  const kept = grid.beats.filter((_, i) => i % 2 === parity);
  const one = kept.findIndex((beat) => beat.position === 1);
  return renumbered({ ...grid, beats: kept }, Math.max(0, one));
}

function firstBar(grid: Grid): number {
  return Math.max(
    0,
    grid.beats.findIndex((beat) => beat.position === 1),
  );
}

function renumbered(grid: Grid, indexOfOne: number): Grid {
  const { beatsPerBar } = grid;
  const beats = grid.beats.map((beat, i) => {
    const position = ((((i - indexOfOne) % beatsPerBar) + beatsPerBar) % beatsPerBar) + 1;
    return beat.position === position ? beat : { ...beat, position };
  });
  return { ...grid, beats };
}

/** Index of the beat nearest to a time, the earlier of two equally near; -1 where there are none. O(log beats). */
export function indexOfNearestBeat(beats: readonly { readonly seconds: number }[], at: number): number {
  let low = 0;
  let high = beats.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (beats[middle]!.seconds < at) low = middle + 1;
    else high = middle;
  }
  if (low === 0) return beats.length ? 0 : -1;
  if (low === beats.length) return beats.length - 1;
  return at - beats[low - 1]!.seconds <= beats[low]!.seconds - at ? low - 1 : low;
}

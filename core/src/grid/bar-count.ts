import { itemAt } from "../presence/index.ts";
import type { GridBeat } from "./grid.ts";

/**
 * Beats numbered on from the one before `index`, up to the next bar start; as they are where that
 * is at `index`.
 */
export function barRecounted(beats: readonly GridBeat[], index: number): GridBeat[] {
  const result = [...beats];
  let count = result[index - 1]?.position ?? 0;
  if (index > 0 && count === 0) return result;
  for (let i = index; i < result.length; i++) {
    const beat = itemAt(result, i);
    if (beat.position === 1) break;
    count += 1;
    result[i] = { ...beat, position: count };
  }
  return result;
}

/**
 * All positions: from `start` to both sides, and on from each beat that a person called the one.
 */
export function recounted(beats: readonly GridBeat[], start: number, beatsPerBar: number): GridBeat[] {
  const outward = countedBackward(countedForward(beats, start, beatsPerBar), start, beatsPerBar);
  return outward.reduce<GridBeat[]>((all, beat, i) => (beat.one ? countedForward(all, i, beatsPerBar) : all), outward);
}

/** Positions 1, 2 … from `start` on, up to the next beat that a person called the one. */
export function countedForward(beats: readonly GridBeat[], start: number, beatsPerBar: number): GridBeat[] {
  const stop = beats.findIndex((beat, i) => i > start && beat.one);
  const end = stop < 0 ? beats.length : stop;
  return beats.map((beat, i) => (i < start || i >= end ? beat : numbered(beat, ((i - start) % beatsPerBar) + 1)));
}

/**
 * Positions before `start`, counted back from it as from a one, down to the nearest beat that a
 * person called the one.
 */
export function countedBackward(beats: readonly GridBeat[], start: number, beatsPerBar: number): GridBeat[] {
  const stop = beats.findLastIndex((beat, i) => i < start && beat.one);
  return beats.map((beat, i) => {
    if (i >= start || i <= stop) return beat;
    return numbered(beat, ((((i - start) % beatsPerBar) + beatsPerBar) % beatsPerBar) + 1);
  });
}

function numbered(beat: GridBeat, position: number): GridBeat {
  return beat.position === position ? beat : { ...beat, position };
}

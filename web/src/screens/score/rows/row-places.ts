import { lastOf } from "@humming-tide/core/presence";
import { type RowSize, rowHeight } from "../layout/row-size.ts";
import type { RowSound } from "../sound/row-sound.ts";

/** Where each row lies under the other: rows with sound lanes are higher. */
export interface RowPlaces {
  readonly sizes: readonly RowSize[];
  /** Of each row, and behind the last one of all. */
  readonly tops: readonly number[];
}

/** Lanes only where something lies in them: 1 the music's level, 2 voices, 4 clips. */
export const lanesOf = ({ level, blocks, handles }: RowSound): number =>
  (handles.length > 0 || level.some((decibels) => decibels < -0.05) ? 1 : 0) +
  (blocks.some(({ kind }) => kind === "voice") ? 2 : 0) +
  (blocks.some(({ kind }) => kind === "clip") ? 4 : 0);

/** Rows with these lanes; sizes of rows with the same lanes are the same object. O(rows). */
export function rowPlaces(size: RowSize, lanes: readonly number[]): RowPlaces {
  const known = new Map<number, RowSize>();
  const sizes = lanes.map((flags) => {
    const own = known.get(flags) ?? {
      ...size,
      level: flags & 1 ? size.level : 0,
      voices: flags & 2 ? size.voices : 0,
      clips: flags & 4 ? size.clips : 0,
    };
    known.set(flags, own);
    return own;
  });
  const tops = [0];
  for (const own of sizes) tops.push(lastOf(tops) + rowHeight(own));
  return { sizes, tops };
}

/**
 * The row at a height, from the first row's upper edge; -1 above the first and behind the last.
 * O(rows).
 */
export function rowAt({ tops }: RowPlaces, y: number): number {
  if (y < 0 || y >= lastOf(tops)) return -1;
  return tops.findLastIndex((top) => top <= y);
}

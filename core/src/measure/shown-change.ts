import { itemAt } from "../presence/index.ts";

/**
 * Finds where one picture gives way to the next in decoded frames, without knowing how they were
 * made. The frames are given small (a few thousand bytes each, any channel order), as numbers 0 to
 * 255.
 */

/**
 * Pictures that differ by less than this (root mean square, of 255) cannot be told apart after
 * encoding.
 */
export const VISIBLE_DIFFERENCE = 3;

/** Root mean square difference of two equally long frames. */
export function frameDifference(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i]! - b[i]!) ** 2;
  return Math.sqrt(sum / a.length);
}

/** How much of `after` is in a frame, by least squares: 0 is all `before`, 1 all `after`. */
export function shareOfAfter(frame: ArrayLike<number>, before: ArrayLike<number>, after: ArrayLike<number>): number {
  let along = 0;
  let total = 0;
  for (let i = 0; i < frame.length; i++) {
    const step = after[i]! - before[i]!;
    along += (frame[i]! - before[i]!) * step;
    total += step * step;
  }
  return total === 0 ? 0 : along / total;
}

/**
 * Index of the shown change among the shares of neighbouring frames: the frame nearest the 50 %
 * point. For a cut that is the new picture's first frame. For a transition of many frames a
 * straight line is fitted to the shares around the middle (25 % to 75 %). Encoding moves each share
 * by about a hundredth, which is half a frame of a long dissolve; ties go to the later frame.
 * Returns null where the shares never rise through 50 %.
 */
export function indexOfShownChange(shares: readonly number[]): number | null {
  const after = shares.findIndex((share, i) => i > 0 && share >= 0.5 && itemAt(shares, i - 1) < 0.5);
  if (after < 0) return null;
  const isMiddle = (i: number): boolean => shares[i] !== undefined && Math.abs(shares[i] - 0.5) <= 0.25;
  let first = after;
  while (isMiddle(first - 1)) first--;
  let last = after - 1;
  while (isMiddle(last + 1)) last++;
  if (last - first + 1 < FEWEST_FOR_A_LINE) {
    return 0.5 - itemAt(shares, after - 1) < itemAt(shares, after) - 0.5 - SHARE_NOISE ? after - 1 : after;
  }
  return Math.floor(crossingOfLine(shares, first, last) + 0.5);
}

const FEWEST_FOR_A_LINE = 4;
const SHARE_NOISE = 0.02;

/**
 * Where the line of least squares through the shares from `first` to `last` (both included) passes
 * 0.5.
 */
function crossingOfLine(shares: readonly number[], first: number, last: number): number {
  const count = last - first + 1;
  const middle = (first + last) / 2;
  let mean = 0;
  let slope = 0;
  let spread = 0;
  for (let i = first; i <= last; i++) {
    mean += shares[i]! / count;
    slope += (i - middle) * shares[i]!;
    spread += (i - middle) ** 2;
  }
  return middle + (0.5 - mean) / (slope / spread);
}

/**
 * Finds where one picture gives way to the next in decoded frames, without knowing how they were made. The frames are given small
 * (a few thousand bytes each, any channel order), as numbers 0 to 255.
 */

/** Pictures that differ by less than this (root mean square, of 255) cannot be told apart after encoding. */
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
 * Index of the shown change among the shares of neighbouring frames: the frame nearest the 50 % point. For a cut that is the new
 * picture's first frame, since the frame before it has nothing of it and lies as far from 50 % as it does; so ties go to the later one.
 * Returns null where the shares never rise through 50 %.
 */
export function indexOfShownChange(shares: readonly number[]): number | null {
  const after = shares.findIndex((share, i) => i > 0 && share >= 0.5 && shares[i - 1]! < 0.5);
  if (after < 0) return null;
  const before = after - 1;
  // Encoding noise moves shares by about a hundredth; within that a tie is a tie.
  return 0.5 - shares[before]! < shares[after]! - 0.5 - SHARE_NOISE ? before : after;
}

const SHARE_NOISE = 0.02;

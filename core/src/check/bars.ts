import { luma } from "../numeric/index.ts";

/** Strips at two opposite edges of a picture, in shares of its height or width. */
export interface Bars {
  readonly edges: "top and bottom" | "left and right";
  /** Of the narrower of the two. */
  readonly share: number;
}

/** Narrower strips belong to the picture. */
const NARROWEST_SHARE = 0.02;
/** Wider ones leave too little for the rest to be a picture with bars. */
const WIDEST_SHARE = 0.4;
/**
 * What is darker, and differs from its neighbours by no more than this, is a strip: encoders leave
 * so much noise.
 */
const DARKEST = 26;
const EVEN = 6;
/**
 * A bar ends all at once: along so much of the edge what follows differs by more than `STEP`. A
 * dark sky does not.
 */
const SHARP_SHARE = 0.6;
const STEP = 18;

/**
 * Black bars that are in a picture itself: even, dark strips along two opposite edges that end in a
 * straight line. Null where there are none. `rgba` has four bytes a pixel. O(pixels).
 */
export function barsIn(rgba: Uint8Array | Uint8ClampedArray, width: number, height: number): Bars | null {
  const light = (x: number, y: number): number => {
    const at = 4 * (y * width + x);
    return luma(rgba[at]!, rgba[at + 1]!, rgba[at + 2]!);
  };
  const rows = barPair(height, width, (line, at) => light(at, line));
  if (rows !== null) return { edges: "top and bottom", share: rows };
  const columns = barPair(width, height, (line, at) => light(line, at));
  return columns === null ? null : { edges: "left and right", share: columns };
}

/** Share of the narrower of two strips at the ends of `lines` lines of `length` pixels. */
function barPair(lines: number, length: number, light: (line: number, at: number) => number): number | null {
  const first = stripFrom(lines, length, light);
  if (first === null) return null;
  const last = stripFrom(lines, length, (line, at) => light(lines - 1 - line, at));
  return last === null ? null : Math.min(first, last);
}

function stripFrom(lines: number, length: number, light: (line: number, at: number) => number): number | null {
  const isEven = (line: number): boolean => {
    let [low, high] = [255, 0];
    for (let at = 0; at < length; at++) {
      const value = light(line, at);
      low = Math.min(low, value);
      high = Math.max(high, value);
    }
    return high <= DARKEST && high - low <= EVEN;
  };
  const most = Math.floor(WIDEST_SHARE * lines);
  let count = 0;
  while (count <= most && isEven(count)) count++;
  if (count / lines < NARROWEST_SHARE || count > most) return null;
  // The line behind the bar may be half of each.
  let differing = 0;
  for (let at = 0; at < length; at++)
    if (Math.abs(light(Math.min(lines - 1, count + 1), at) - light(count - 1, at)) > STEP) differing++;
  return differing >= SHARP_SHARE * length ? count / lines : null;
}

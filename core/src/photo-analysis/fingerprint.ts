import { itemAt } from "../presence/index.ts";

/** A picture in grey, row by row, 0 to 255. */
export interface GreyPicture {
  readonly width: number;
  readonly height: number;
  readonly pixels: ArrayLike<number>;
}

/** Pictures are shrunk to this many pixels a side, whatever their shape. */
export const FINGERPRINT_SIDE = 16;
const PIXELS = FINGERPRINT_SIDE * FINGERPRINT_SIDE;

/** A picture shrunk to 16 x 16 in grey, as text: two hexadecimal digits a pixel. */
export const fingerprint = ({ pixels }: GreyPicture): string =>
  Array.from({ length: PIXELS }, (_, at) => Math.round(itemAt(pixels, at)).toString(16).padStart(2, "0")).join("");

/**
 * The slopes of a fingerprint, from each pixel to its right and its lower neighbour, as a vector of
 * length 1. Light and contrast fall out, and even surfaces weigh nothing, however they flicker. All
 * zero for an even picture.
 */
export function slopesOf(print: string): Float32Array {
  const grey = (x: number, y: number): number => {
    const at = 2 * (y * FINGERPRINT_SIDE + x);
    return Number.parseInt(print.slice(at, at + 2), 16);
  };
  const slopes = new Float32Array(2 * FINGERPRINT_SIDE * (FINGERPRINT_SIDE - 1));
  let at = 0;
  for (let y = 0; y < FINGERPRINT_SIDE; y++) {
    for (let x = 0; x < FINGERPRINT_SIDE; x++) {
      if (x + 1 < FINGERPRINT_SIDE) slopes[at++] = grey(x + 1, y) - grey(x, y);
      if (y + 1 < FINGERPRINT_SIDE) slopes[at++] = grey(x, y + 1) - grey(x, y);
    }
  }
  const length = Math.hypot(...slopes);
  return length > 0 ? slopes.map((slope) => slope / length) : slopes;
}

/**
 * How alike two pictures are by their slopes: 1 the same, about 0 unrelated, negative for
 * opposites.
 */
export function likeness(a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

import type { GreyPicture } from "./fingerprint.ts";

/**
 * A cascade of boosted trees over rectangle features (Viola and Jones 2001), as it is kept in a
 * file: all numbers in a row. Some rectangles are tilted by 45 degrees (Lienhart and Maydt 2002).
 */
export interface CascadeFile {
  /** For each feature: 1 where it is tilted, how many rectangles, and five numbers for each. */
  readonly features: readonly number[];
  /**
   * For each stage: its threshold and how many trees. For each tree: how many nodes; for each node
   * the ways left and right, its feature and threshold; then one leaf more than nodes. Left is
   * taken below the threshold. A way above 0 is another node's index, else a leaf's, negated.
   */
  readonly stages: readonly number[];
}

/** Side of the square window that the cascade looks at. */
const WINDOW_PIXELS = 20;
/** Windows with less contrast are passed over: standard deviation times area. */
const LEAST_SPREAD = 3240;
/** Numbers of the cascade were rounded when it was written. */
const THRESHOLD_SLACK = 1e-5;
const RECTANGLE_NUMBERS = 5;

/** A cascade made ready to be asked. */
export class Cascade {
  readonly #stages: Float64Array;
  readonly #rectangles: readonly (readonly number[])[];
  readonly #weights: Float64Array;
  readonly #isTilted: Uint8Array;
  /** Which rectangles a feature has: from here to where the next one's begin. */
  readonly #starts: Int32Array;
  readonly #corners = new Map<number, Int32Array>();

  constructor({ features, stages }: CascadeFile) {
    this.#stages = Float64Array.from(stages);
    const [rectangles, starts, tilts]: [number[][], number[], number[]] = [[], [], []];
    for (let at = 0; at < features.length; ) {
      const [isTilted, count] = [features[at]!, features[at + 1]!];
      starts.push(rectangles.length);
      tilts.push(isTilted);
      at += 2;
      for (let i = 0; i < count; i++, at += RECTANGLE_NUMBERS)
        rectangles.push(features.slice(at, at + RECTANGLE_NUMBERS));
    }
    this.#rectangles = rectangles;
    this.#weights = Float64Array.from(rectangles, (rectangle) => rectangle[4]!);
    this.#isTilted = Uint8Array.from(tilts);
    this.#starts = Int32Array.from([...starts, rectangles.length]);
  }

  /**
   * The upper left corners of all windows of a picture that pass, row by row. O(pixels x features
   * that have to be asked).
   */
  passingWindows({ width, height, pixels }: GreyPicture): [x: number, y: number][] {
    const sums = sumsOf(width, height, (i) => pixels[i]!);
    const squares = sumsOf(width, height, (i) => pixels[i]! ** 2);
    const tilted = tiltedSumsOf(width, height, pixels);
    const stride = strideOf(width);
    const corners = this.#cornersFor(stride);
    const [inner, area] = [WINDOW_PIXELS - 2, (WINDOW_PIXELS - 2) ** 2];
    const within = (plane: Float64Array, at: number): number =>
      plane[at]! - plane[at + inner]! - plane[at + inner * stride]! + plane[at + inner * (stride + 1)]!;
    const passing: [number, number][] = [];
    for (let y = 0; y + WINDOW_PIXELS <= height; y++)
      for (let x = 0; x + WINDOW_PIXELS <= width; x++) {
        const at = y * stride + x + ROOM;
        const sum = within(sums, at + stride + 1);
        const spread = Math.sqrt(Math.max(0, area * within(squares, at + stride + 1) - sum * sum));
        if (spread > LEAST_SPREAD && this.#passes(sums, tilted, corners, at, spread)) passing.push([x, y]);
      }
    return passing;
  }

  /** Four corners of each rectangle, from the window's own, for pictures of one stride. */
  #cornersFor(stride: number): Int32Array {
    const known = this.#corners.get(stride);
    if (known) return known;
    const corners = new Int32Array(4 * this.#rectangles.length);
    for (let feature = 0; feature < this.#isTilted.length; feature++)
      for (let i = this.#starts[feature]!; i < this.#starts[feature + 1]!; i++) {
        const [x, y, wide, high] = this.#rectangles[i] as [number, number, number, number];
        const first = y * stride + x;
        // Tilted: `wide` goes to the right below, `high` to the left below.
        const right = this.#isTilted[feature] ? wide * stride + wide : wide;
        const below = this.#isTilted[feature] ? high * stride - high : high * stride;
        corners.set([first, first + right, first + below, first + right + below], 4 * i);
      }
    this.#corners.set(stride, corners);
    return corners;
  }

  #passes(sums: Float64Array, tilted: Float64Array, corners: Int32Array, window: number, spread: number): boolean {
    const [stages, starts, weights, isTilted] = [this.#stages, this.#starts, this.#weights, this.#isTilted];
    let at = 0;
    while (at < stages.length) {
      const threshold = stages[at]! - THRESHOLD_SLACK;
      const treeCount = stages[at + 1]!;
      at += 2;
      let sum = 0;
      for (let tree = 0; tree < treeCount; tree++) {
        const nodeCount = stages[at]!;
        let way = 0;
        do {
          const node = at + 1 + 4 * way;
          const feature = stages[node + 2]!;
          const plane = isTilted[feature] ? tilted : sums;
          let value = 0;
          for (let i = starts[feature]!; i < starts[feature + 1]!; i++) {
            const k = 4 * i;
            const own =
              plane[window + corners[k]!]! -
              plane[window + corners[k + 1]!]! -
              plane[window + corners[k + 2]!]! +
              plane[window + corners[k + 3]!]!;
            value += weights[i]! * own;
          }
          way = value < stages[node + 3]! * spread ? stages[node]! : stages[node + 1]!;
        } while (way > 0);
        sum += stages[at + 1 + 4 * nodeCount - way]!;
        at += 2 + 5 * nodeCount;
      }
      if (sum < threshold) return false;
    }
    return true;
  }
}

/** Empty columns at both sides of the sums: no window's tilted rectangle reaches further. */
const ROOM = WINDOW_PIXELS + 2;
const strideOf = (width: number): number => width + 1 + 2 * ROOM;

/** At column x + ROOM of row y: over all pixels left of x and above y (Crow 1984). */
function sumsOf(width: number, height: number, valueAt: (index: number) => number): Float64Array {
  const stride = strideOf(width);
  const sums = new Float64Array(stride * (height + 1));
  for (let y = 0; y < height; y++) {
    let row = 0;
    for (let x = 0; x < width; x++) {
      row += valueAt(y * width + x);
      const at = (y + 1) * stride + x + 1 + ROOM;
      sums[at] = sums[at - stride]! + row;
    }
  }
  return sums;
}

/**
 * At column x + ROOM of row y: over the triangle that opens upwards from the pixel left above
 * (Lienhart and Maydt 2002).
 */
function tiltedSumsOf(width: number, height: number, pixels: ArrayLike<number>): Float64Array {
  // The triangles of a row reach as far to both sides as there are rows: wide enough for all.
  const room = height + 2;
  const wide = width + 1 + 2 * room;
  const all = new Float64Array(wide * (height + 1));
  for (let y = 1; y <= height; y++)
    for (let i = 1; i < wide - 1; i++) {
      const x = i - room - 1;
      const isInside = x >= 0 && x < width;
      const pixel = isInside ? pixels[(y - 1) * width + x]! + (y >= 2 ? pixels[(y - 2) * width + x]! : 0) : 0;
      const above = y >= 2 ? all[(y - 2) * wide + i]! : 0;
      all[y * wide + i] = all[(y - 1) * wide + i - 1]! + all[(y - 1) * wide + i + 1]! - above + pixel;
    }
  const stride = strideOf(width);
  const sums = new Float64Array(stride * (height + 1));
  for (let y = 0; y <= height; y++)
    for (let x = -ROOM; x <= width + ROOM; x++)
      if (x + room >= 0 && x + room < wide) sums[y * stride + x + ROOM] = all[y * wide + x + room]!;
  return sums;
}

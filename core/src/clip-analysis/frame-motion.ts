/** In pixels. */
export interface FrameSize {
  readonly width: number;
  readonly height: number;
}

/** A small grey picture, row by row, 0 to 255. */
export interface GreyFrame extends FrameSize {
  readonly values: Float32Array;
}

/** What lies between two frames that follow each other. */
export interface FrameMotion {
  /** How far the camera went, in shares of the longer side; rightward and downward positive. */
  readonly x: number;
  readonly y: number;
  /**
   * What the camera does not explain: the change, 0 to 255, of the pixels that change most, beyond
   * what edges make that are not quite met.
   */
  readonly ownMovement: number;
}

/** Camera shift in pixels, growth and turn in pixels at a distance of one pixel, and brightness. */
type Camera = readonly [x: number, y: number, zoom: number, roll: number, light: number];

const NO_CAMERA: Camera = [0, 0, 0, 0, 0];
const ITERATIONS = 3;
/** Sides are halved until the longer one is about this long: there, fast pans are a pixel. */
const SMALLEST_SIDE = 20;
/** As much of a picture changes where one person moves, some way off. */
const MOVING_SHARE = 0.01;
/** Share of an edge's slope that may be left where frames are not met to the pixel. */
const EDGE_SHARE = 0.25;

/**
 * The camera's motion from one frame to the next, and what moves by itself in it. By least squares
 * over shift, zoom, roll and brightness together, from coarse to fine (Lucas and Kanade 1981).
 * Pixels that do not follow the camera count little, so that it is not led by a passer-by.
 * O(pixels).
 */
export function motionBetween(before: FrameLevels, after: FrameLevels): FrameMotion {
  let camera = NO_CAMERA;
  for (let level = before.length - 1; level >= 0; level--) {
    const [one, other] = [before[level]!, after[level]!];
    if (level < before.length - 1) camera = [2 * camera[0], 2 * camera[1], camera[2], camera[3], camera[4]];
    for (let i = 0; i < ITERATIONS; i++) camera = improved(camera, one, other);
  }
  const [finest, next] = [before[0]!, after[0]!];
  const side = Math.max(finest.width, finest.height);
  return { x: -camera[0] / side, y: -camera[1] / side, ownMovement: leftOver(camera, finest, next) };
}

/** A frame in smaller and smaller sizes, the full one first. */
export type FrameLevels = readonly GreyFrame[];

/** The frame in smaller sizes, each half the one before, a little softened. O(pixels). */
export function frameLevels(frame: GreyFrame): FrameLevels {
  const levels = [blurred(frame)];
  for (;;) {
    const last = levels.at(-1)!;
    if (Math.max(last.width, last.height) < 2 * SMALLEST_SIDE) return levels;
    levels.push(halved(last));
  }
}

function improved(camera: Camera, before: GreyFrame, after: GreyFrame): Camera {
  const { width, height, values } = before;
  const seen = throughCamera(camera, after);
  const light = camera[4];
  const scale = meanDifference(values, seen, light);
  const sums = new Float64Array(30);
  for (let y = 1; y < height - 1; y++) {
    const fromY = y - height / 2;
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const difference = values[i]! - seen[i]! - light;
      if (difference !== difference) continue;
      const fromX = x - width / 2;
      const a = (values[i + 1]! - values[i - 1]!) / 2;
      const b = (values[i + width]! - values[i - width]!) / 2;
      const c = a * fromX + b * fromY;
      const d = b * fromX - a * fromY;
      const weight = 1 / (1 + (difference / scale) ** 2);
      const [wa, wb, wc, wd] = [weight * a, weight * b, weight * c, weight * d];
      sums[0]! += wa * a;
      sums[1]! += wa * b;
      sums[2]! += wa * c;
      sums[3]! += wa * d;
      sums[4]! += wa;
      sums[5]! += wa * difference;
      sums[7]! += wb * b;
      sums[8]! += wb * c;
      sums[9]! += wb * d;
      sums[10]! += wb;
      sums[11]! += wb * difference;
      sums[14]! += wc * c;
      sums[15]! += wc * d;
      sums[16]! += wc;
      sums[17]! += wc * difference;
      sums[21]! += wd * d;
      sums[22]! += wd;
      sums[23]! += wd * difference;
      sums[28]! += weight;
      sums[29]! += weight * difference;
    }
  }
  // The equations are the same across their diagonal.
  for (let row = 1; row < 5; row++)
    for (let column = 0; column < row; column++) sums[6 * row + column] = sums[6 * column + row]!;
  const step = solved(sums);
  if (!step) return camera;
  return [camera[0] + step[0], camera[1] + step[1], camera[2] + step[2], camera[3] + step[3], light + step[4]];
}

/** As a guess of how far pixels differ that do follow the camera. */
function meanDifference(values: Float32Array, seen: Float32Array, light: number): number {
  let [sum, count] = [0, 0];
  for (let i = 0; i < values.length; i += 3) {
    const difference = Math.abs(values[i]! - seen[i]! - light);
    if (difference !== difference) continue;
    sum += difference;
    count++;
  }
  return 1 + (count > 0 ? sum / count : 0);
}

/** The mean of what the camera leaves at the places where it leaves most. */
function leftOver(camera: Camera, before: GreyFrame, after: GreyFrame): number {
  const { width, height, values } = before;
  const seen = throughCamera(camera, after);
  const light = camera[4];
  const left = new Float32Array(values.length);
  let count = 0;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const difference = Math.abs(values[i]! - seen[i]! - light);
      if (difference !== difference) continue;
      const slope = Math.abs(values[i + 1]! - values[i - 1]!) + Math.abs(values[i + width]! - values[i - width]!);
      left[count++] = Math.max(0, difference - (EDGE_SHARE * slope) / 2);
    }
  if (count === 0) return 0;
  const sorted = left.subarray(0, count).sort();
  const from = Math.floor((1 - MOVING_SHARE) * count);
  let sum = 0;
  for (let i = from; i < count; i++) sum += sorted[i]!;
  return sum / (count - from);
}

/**
 * The later frame as it looks from where the camera was before; NaN outside of it. Between pixels
 * it is linear.
 */
function throughCamera(camera: Camera, { width, height, values }: GreyFrame): Float32Array {
  const [shiftX, shiftY, zoom, roll] = camera;
  const seen = new Float32Array(values.length);
  let i = 0;
  for (let y = 0; y < height; y++) {
    const fromY = y - height / 2;
    let placeX = shiftX - (width / 2) * zoom - roll * fromY;
    let placeY = y + shiftY + zoom * fromY - (width / 2) * roll;
    for (let x = 0; x < width; x++, placeX += 1 + zoom, placeY += roll, i++) {
      if (!(placeX >= 0 && placeY >= 0 && placeX < width - 1 && placeY < height - 1)) {
        seen[i] = Number.NaN;
        continue;
      }
      const [left, top] = [Math.floor(placeX), Math.floor(placeY)];
      const right = placeX - left;
      const at = top * width + left;
      const upper = values[at]! + right * (values[at + 1]! - values[at]!);
      const lower = values[at + width]! + right * (values[at + width + 1]! - values[at + width]!);
      seen[i] = upper + (placeY - top) * (lower - upper);
    }
  }
  return seen;
}

/** Gauss's elimination of five equations, each with its right side; null where they do not tell. */
function solved(rows: Float64Array): Camera | null {
  const width = 6;
  for (let pivot = 0; pivot < 5; pivot++) {
    // Of a picture without any edge only the brightness is known.
    rows[pivot * width + pivot]! += 1e-6;
    const divisor = rows[pivot * width + pivot]!;
    if (!(Math.abs(divisor) > 1e-9)) return null;
    for (let row = 0; row < 5; row++) {
      if (row === pivot) continue;
      const times = rows[row * width + pivot]! / divisor;
      for (let column = pivot; column < width; column++)
        rows[row * width + column]! -= times * rows[pivot * width + column]!;
    }
  }
  const step = [0, 1, 2, 3, 4].map((row) => rows[row * width + 5]! / rows[row * width + row]!);
  return step.every(Number.isFinite) ? (step as unknown as Camera) : null;
}

function halved({ width, height, values }: GreyFrame): GreyFrame {
  const size = { width: Math.floor(width / 2), height: Math.floor(height / 2) };
  const half = new Float32Array(size.width * size.height);
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const i = 2 * y * width + 2 * x;
      half[y * size.width + x] = (values[i]! + values[i + 1]! + values[i + width]! + values[i + width + 1]!) / 4;
    }
  return { ...size, values: half };
}

/** Each pixel is the mean of nine, so that slopes tell of more than a pixel. */
function blurred({ width, height, values }: GreyFrame): GreyFrame {
  const soft = values.slice();
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      let sum = 0;
      for (let down = -width; down <= width; down += width)
        for (let right = -1; right <= 1; right++) sum += values[y * width + x + down + right]!;
      soft[y * width + x] = sum / 9;
    }
  return { width, height, values: soft };
}

import { AreaSums, luma } from "../numeric/index.ts";
import type { Turn } from "../show/index.ts";
import type { Point } from "../values/index.ts";
import { clamp, type Rectangle, type Size } from "./geometry.ts";

/** What must stay in view of a picture, in shares of its width and height. */
export interface Subject {
  readonly point: Point;
  /** Around what belongs to it. */
  readonly region: Rectangle;
  /** Whole heads that are never cut where it can be helped; absent or empty: no people. */
  readonly heads?: Rectangle[] | undefined;
  /** How soft the heads are, 0 sharp to 1 soft; absent where there are none, or nobody measured. */
  readonly headBlur?: number | undefined;
}

/** A picture as RGB, row by row, three bytes a pixel. */
export interface ColourRaster extends Size {
  readonly pixels: Uint8Array;
}

const LARGEST_REGION = 0.8;
/** A region reaches from this share of what stands out to its complement, along both axes. */
const REGION_TAIL = 0.1;
/**
 * A plain surface of a striking colour, as a sky, counts for so much of what a middling amount of
 * detail would give it.
 */
const PLAIN_SHARE = 0.2;
/** More detail than so many times the mean is not more of a subject. */
const LARGEST_DETAIL = 3;
/** A point set by hand stands for about so much of the picture. */
const HAND_REGION = 0.2;

/** A subject that a person pointed at. */
export function subjectAt(point: Point): Subject {
  const along = (at: number): number => clamp(at - HAND_REGION / 2, 0, 1 - HAND_REGION);
  return { point, region: { x: along(point.x), y: along(point.y), width: HAND_REGION, height: HAND_REGION } };
}

/** The turn that takes a turn back. */
export const turnBack = (turn: Turn): Turn => ((360 - turn) % 360) as Turn;

function turnPoint(point: Point, turn: Turn): Point {
  if (turn === 90) return { x: 1 - point.y, y: point.x };
  if (turn === 180) return { x: 1 - point.x, y: 1 - point.y };
  return turn === 270 ? { x: point.y, y: 1 - point.x } : { x: point.x, y: point.y };
}

/** The same part of a picture, in shares of it, after the picture was turned clockwise. */
export function turnBox({ x, y, width, height }: Rectangle, turn: Turn): Rectangle {
  const a = turnPoint({ x, y }, turn);
  const b = turnPoint({ x: x + width, y: y + height }, turn);
  return { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), width: Math.abs(b.x - a.x), height: Math.abs(b.y - a.y) };
}

/** The same subject after the picture was turned clockwise. */
export function turnSubject({ point, region, heads, ...rest }: Subject, turn: Turn): Subject {
  return {
    ...rest,
    point: turnPoint(point, turn),
    region: turnBox(region, turn),
    ...(heads ? { heads: heads.map((head) => turnBox(head, turn)) } : {}),
  };
}

/**
 * Finds what stands out of a small picture (about 96 pixels along its longer side). What stands out
 * differs in colour from the picture's mean (Achanta et al. 2009, frequency-tuned saliency, in CIE
 * Lab) and from its surroundings. Detail counts more than a plain surface, and the middle a little
 * more than the edge. Skin counts most (Chai and Ngan 1999, ranges of Cb and Cr). The largest
 * connected region that stands out is the subject. Where nothing stands out, it is the picture's
 * middle. O(pixels).
 */
export function findSubject(raster: ColourRaster): Subject {
  const weight = conspicuousness(raster);
  const { width, height } = raster;
  const mean = weight.reduce((sum, value) => sum + value, 0) / weight.length;
  if (mean < 1e-6) return { point: { x: 0.5, y: 0.45 }, region: { x: 0.3, y: 0.25, width: 0.4, height: 0.4 } };
  const heap = largestHeap(weight, width, height, 1.6 * mean);
  const columns = new Float64Array(width);
  const rows = new Float64Array(height);
  let total = 0;
  for (const i of heap) {
    const own = weight[i]!;
    columns[i % width]! += own;
    rows[Math.floor(i / width)]! += own;
    total += own;
  }
  const across = spread(columns, total);
  const down = spread(rows, total);
  return {
    // Of something tall the upper part is what is looked at: a face rather than a coat.
    point: {
      x: across.middle,
      y: down.from + (down.middle - down.from) * (down.length > 1.4 * across.length ? 0.7 : 1),
    },
    region: { x: across.from, y: down.from, width: across.length, height: down.length },
  };
}

/** Where a heap lies along an axis, in shares of it. */
function spread(values: Float64Array, total: number): { from: number; length: number; middle: number } {
  const at = (share: number): number => {
    let sum = 0;
    for (const [i, value] of values.entries()) {
      if (sum + value >= share * total) return (i + (value > 0 ? (share * total - sum) / value : 0)) / values.length;
      sum += value;
    }
    return 1;
  };
  const middle = at(0.5);
  const [low, high] = [at(REGION_TAIL), at(1 - REGION_TAIL)];
  const length = clamp(high - low, 0.08, LARGEST_REGION);
  return { from: clamp((low + high - length) / 2, 0, 1 - length), length, middle };
}

/** The connected pixels (by sides) above a threshold that weigh most together. */
function largestHeap(weight: Float64Array, width: number, height: number, threshold: number): number[] {
  const seen = new Uint8Array(weight.length);
  let best: number[] = [];
  let bestMass = -1;
  for (let start = 0; start < weight.length; start++) {
    if (seen[start] || weight[start]! < threshold) continue;
    const heap = [start];
    seen[start] = 1;
    let mass = 0;
    for (let next = 0; next < heap.length; next++) {
      const i = heap[next]!;
      mass += weight[i]!;
      const x = i % width;
      const neighbours = [
        x > 0 ? i - 1 : -1,
        x < width - 1 ? i + 1 : -1,
        i - width,
        i + width < width * height ? i + width : -1,
      ];
      for (const j of neighbours) {
        if (j < 0 || seen[j] || weight[j]! < threshold) continue;
        seen[j] = 1;
        heap.push(j);
      }
    }
    if (mass > bestMass) [best, bestMass] = [heap, mass];
  }
  return best;
}

function conspicuousness({ width, height, pixels }: ColourRaster): Float64Array {
  const count = width * height;
  const lab = [new Float64Array(count), new Float64Array(count), new Float64Array(count)] as const;
  const skin = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const [r, g, b] = [pixels[3 * i]!, pixels[3 * i + 1]!, pixels[3 * i + 2]!];
    const [l, a, bb] = labOf(r, g, b);
    lab[0][i] = l;
    lab[1][i] = a;
    lab[2][i] = bb;
    const cb = 128 - 0.168736 * r - 0.331264 * g + 0.5 * b;
    const cr = 128 + 0.5 * r - 0.418688 * g - 0.081312 * b;
    skin[i] = cb >= 77 && cb <= 127 && cr >= 133 && cr <= 173 && l > 20 ? 1 : 0;
  }
  const result = new Float64Array(count);
  const near = Math.max(1, Math.round(Math.max(width, height) / 48));
  const wide = Math.max(2, Math.round(Math.max(width, height) / 6));
  for (const plane of lab) {
    const mean = plane.reduce((sum, value) => sum + value, 0) / count;
    const fine = boxBlur(plane, width, height, near);
    const coarse = boxBlur(plane, width, height, wide);
    fine.forEach((own, i) => {
      result[i]! += (own - mean) ** 2 + (own - coarse[i]!) ** 2;
    });
  }
  const skinNear = boxBlur(skin, width, height, near);
  const detail = boxBlur(edges(lab[0], width, height), width, height, 2 * near);
  const meanDetail = detail.reduce((sum, value) => sum + value, 0) / count + 1e-9;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const [dx, dy] = [(x + 0.5) / width - 0.5, (y + 0.5) / height - 0.48];
      const drawn = PLAIN_SHARE + Math.min(LARGEST_DETAIL, detail[i]! / meanDetail);
      result[i] = Math.sqrt(result[i]!) * drawn * (1 + skinNear[i]!) * Math.exp(-3.2 * (dx * dx + dy * dy));
    }
  }
  return result;
}

/** How steeply lightness changes at each pixel: the larger of its steps to the right and down. */
function edges(lightness: Float64Array, width: number, height: number): Float64Array {
  const result = new Float64Array(lightness.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const right = x < width - 1 ? Math.abs(lightness[i + 1]! - lightness[i]!) : 0;
      const down = y < height - 1 ? Math.abs(lightness[i + width]! - lightness[i]!) : 0;
      result[i] = Math.max(right, down);
    }
  }
  return result;
}

/** Means over squares of 2 radius + 1 pixels, cut off at the edges. */
function boxBlur(plane: Float64Array, width: number, height: number, radius: number): Float64Array {
  const sums = new AreaSums(width, height, (i) => plane[i]!);
  const result = new Float64Array(plane.length);
  for (let y = 0; y < height; y++) {
    const [top, bottom] = [Math.max(0, y - radius), Math.min(height, y + radius + 1)];
    for (let x = 0; x < width; x++) {
      const [left, right] = [Math.max(0, x - radius), Math.min(width, x + radius + 1)];
      result[y * width + x] = sums.sum(left, top, right, bottom) / ((bottom - top) * (right - left));
    }
  }
  return result;
}

/** sRGB (IEC 61966-2-1) to CIE Lab with the white point D65. */
function labOf(red: number, green: number, blue: number): [number, number, number] {
  const linear = (value: number): number =>
    value <= 10.31475 ? value / 255 / 12.92 : ((value / 255 + 0.055) / 1.055) ** 2.4;
  const [r, g, b] = [linear(red), linear(green), linear(blue)];
  const f = (t: number): number => (t > 216 / 24_389 ? Math.cbrt(t) : (24_389 / 27 / 116) * t + 16 / 116);
  const x = f((0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505);
  const y = f(luma(r, g, b));
  const z = f((0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.089);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

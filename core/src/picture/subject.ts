import { AreaSums } from "../numeric/index.ts";
import type { Turn } from "../show/index.ts";
import type { Point } from "../values/index.ts";
import { clamp, type Rectangle, type Size } from "./geometry.ts";
import { type ColourRaster, saliency } from "./saliency.ts";

/** What must stay in view of a picture, in shares of its width and height. */
export interface Subject {
  readonly point: Point;
  /** Around what belongs to it. */
  readonly region: Rectangle;
  /** Whole heads that are never cut where it can be helped; absent or empty: no people. */
  readonly heads?: Rectangle[] | undefined;
  /** How soft the heads are, 0 sharp to 1 soft; absent where there are none, or nobody measured. */
  readonly headBlur?: number | undefined;
  /** Share of the heads whose eyes seem open; absent where none can be told. */
  readonly openEyes?: number | undefined;
}

const LARGEST_REGION = 0.8;
/** A region reaches from this share of what stands out to its complement, along both axes. */
const REGION_TAIL = 0.1;
/** The subject is looked for in the part of a picture where most stands out, of these shares. */
const PART = { width: 0.7, height: 0.8 } as const;
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
 * Finds what stands out of a small picture (about 96 pixels along its longer side): the middle of
 * what stands out (see `saliency`) in the part where most of it lies. Where nothing stands out, it
 * is the picture's middle. O(pixels).
 */
export function findSubject(raster: ColourRaster): Subject {
  const weight = saliency(raster);
  const { width, height } = raster;
  const mean = weight.reduce((sum, value) => sum + value, 0) / weight.length;
  if (mean < 1e-6) return { point: { x: 0.5, y: 0.45 }, region: { x: 0.3, y: 0.25, width: 0.4, height: 0.4 } };
  const part = heaviestPart(weight, raster);
  const columns = new Float64Array(width);
  const rows = new Float64Array(height);
  let total = 0;
  for (let y = part.y; y < part.y + part.height; y++)
    for (let x = part.x; x < part.x + part.width; x++) {
      const own = weight[y * width + x]!;
      columns[x]! += own;
      rows[y]! += own;
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

/** The part of a picture, in pixels, in which most stands out; the upper left one of equals. */
function heaviestPart(weight: Float64Array, { width, height }: Size): Rectangle {
  const sums = new AreaSums(width, height, (i) => weight[i]!);
  const size = { width: Math.ceil(PART.width * width), height: Math.ceil(PART.height * height) };
  let best = { x: 0, y: 0, weight: -1 };
  for (let y = 0; y + size.height <= height; y++)
    for (let x = 0; x + size.width <= width; x++) {
      const own = sums.sum(x, y, x + size.width, y + size.height);
      if (own > best.weight) best = { x, y, weight: own };
    }
  return { x: best.x, y: best.y, ...size };
}

/** Where weights lie along an axis, in shares of it. */
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

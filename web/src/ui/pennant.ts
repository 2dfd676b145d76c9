import { itemAt } from "@humming-tide/core/presence";
import type { MarkerKind, MarkerOrigin } from "@humming-tide/core/show";

/**
 * A marker's flag: its outline tells where the marker came from, what is filled of it tells its
 * kind. The staff is at x = 0.
 */
export const PENNANT_WIDTH = 11;
export const PENNANT_HEIGHT = 10;

type Point = readonly [x: number, y: number];
const MIDDLE = PENNANT_HEIGHT / 2;

/**
 * Detected: a triangle; tapped: a swallow's tail; placed: a square banner; imported: a banner with
 * a point.
 */
const OUTLINES: Readonly<Record<MarkerOrigin, readonly Point[]>> = {
  detected: [
    [0, 0],
    [PENNANT_WIDTH, MIDDLE],
    [0, PENNANT_HEIGHT],
  ],
  tapped: [
    [0, 0],
    [PENNANT_WIDTH, 0],
    [6, MIDDLE],
    [PENNANT_WIDTH, PENNANT_HEIGHT],
    [0, PENNANT_HEIGHT],
  ],
  placed: [
    [0, 0],
    [PENNANT_WIDTH, 0],
    [PENNANT_WIDTH, PENNANT_HEIGHT],
    [0, PENNANT_HEIGHT],
  ],
  imported: [
    [0, 0],
    [7, 0],
    [PENNANT_WIDTH, MIDDLE],
    [7, PENNANT_HEIGHT],
    [0, PENNANT_HEIGHT],
  ],
};

/**
 * How far inside the filled part a point is; negative outside. A cut is full, an accent half, a
 * section at the staff, a note empty.
 */
const FILLS: Readonly<Record<MarkerKind, ((point: Point) => number) | null>> = {
  cut: () => 1,
  accent: ([, y]) => y - MIDDLE,
  section: ([x]) => 4 - x,
  note: null,
};

interface Pennant {
  /** SVG paths, from the upper end of the staff. */
  readonly outline: string;
  readonly fill: string;
}

const made = new Map<string, Pennant>();

export function pennant({ origin, kind }: { readonly origin: MarkerOrigin; readonly kind: MarkerKind }): Pennant {
  const key = `${origin} ${kind}`;
  let found = made.get(key);
  if (!found) {
    const depth = FILLS[kind];
    found = { outline: path(OUTLINES[origin]), fill: depth ? path(clipped(OUTLINES[origin], depth)) : "" };
    made.set(key, found);
  }
  return found;
}

const path = (points: readonly Point[]): string => `M${points.map(([x, y]) => `${x} ${y}`).join("L")}Z`;

/** The part of a polygon on one side of a line (Sutherland & Hodgman 1974). */
function clipped(points: readonly Point[], depth: (point: Point) => number): Point[] {
  return points.flatMap((point, i) => {
    const next = itemAt(points, (i + 1) % points.length);
    const [here, there] = [depth(point), depth(next)];
    const share = here / (here - there);
    const crossing: Point = [point[0] + share * (next[0] - point[0]), point[1] + share * (next[1] - point[1])];
    return [...(here >= 0 ? [point] : []), ...(here * there < 0 ? [crossing] : [])];
  });
}

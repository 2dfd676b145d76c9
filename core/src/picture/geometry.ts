import { itemAt } from "../presence/index.ts";
import type { Point } from "../values/index.ts";

export interface Size {
  readonly width: number;
  readonly height: number;
}

export interface Rectangle extends Size {
  readonly x: number;
  readonly y: number;
}

/** The middle of everything that has shares. */
export const MIDDLE: Point = { x: 0.5, y: 0.5 };

/** The value, or the nearer end of the range, both ends inclusive. */
export const clamp = (value: number, low: number, high: number): number => Math.max(low, Math.min(high, value));

/**
 * The value that lies a share of the way from `a` (0) to `b` (1); beyond both for other shares.
 */
export const between = (a: number, b: number, share: number): number => a + (b - a) * share;

/** The rectangle that lies a share of the way from one to another. */
export const rectangleBetween = (a: Rectangle, b: Rectangle, share: number): Rectangle => ({
  x: between(a.x, b.x, share),
  y: between(a.y, b.y, share),
  width: between(a.width, b.width, share),
  height: between(a.height, b.height, share),
});

/** A rectangle moved by so much, of the same size. */
export const shifted = (rectangle: Rectangle, by: Point): Rectangle => ({
  ...rectangle,
  x: rectangle.x + by.x,
  y: rectangle.y + by.y,
});

/** What two rectangles have in common; without width or height where they have nothing. */
export function sharedPart(a: Rectangle, b: Rectangle): Rectangle {
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)];
  return {
    x,
    y,
    width: Math.max(0, Math.min(a.x + a.width, b.x + b.width) - x),
    height: Math.max(0, Math.min(a.y + a.height, b.y + b.height) - y),
  };
}

/** Whether a rectangle leaves none of a frame free; a thousandth of a pixel is forgiven. */
export const coversFrame = ({ x, y, width, height }: Rectangle, frame: Size): boolean =>
  x <= 1e-3 && y <= 1e-3 && x + width >= frame.width - 1e-3 && y + height >= frame.height - 1e-3;

/** The smallest rectangle of an image's shape that covers the frame, in the middle. */
export function coveringFrame(image: Size, frame: Size): Rectangle {
  const scale = Math.max(frame.width / image.width, frame.height / image.height);
  const [width, height] = [image.width * scale, image.height * scale];
  return { x: (frame.width - width) / 2, y: (frame.height - height) / 2, width, height };
}

/**
 * The part of a convex polygon on the side of a line that `normal` (of length 1) points away from;
 * `point` lies on the line. Sutherland and Hodgman 1974.
 */
export function polygonBehind(polygon: readonly Point[], point: Point, normal: Point): Point[] {
  const distance = (p: Point): number => (p.x - point.x) * normal.x + (p.y - point.y) * normal.y;
  return polygon.flatMap((corner, i) => {
    const next = itemAt(polygon, (i + 1) % polygon.length);
    const [here, there] = [distance(corner), distance(next)];
    const kept = here <= 0 ? [corner] : [];
    if (here <= 0 === there <= 0) return kept;
    const share = here / (here - there);
    return [...kept, { x: between(corner.x, next.x, share), y: between(corner.y, next.y, share) }];
  });
}

/** A shape of film in lowest terms: "16:9". */
export function shapeOf({ width, height }: Size): string {
  const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b));
  const common = divisor(width, height);
  return `${width / common}:${height / common}`;
}

/** Area that both cover over the area that either covers (Jaccard 1901), 0 to 1. */
export function sharedShare(a: Rectangle, b: Rectangle): number {
  const wide = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const high = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  const shared = Math.max(0, wide) * Math.max(0, high);
  return shared / (a.width * a.height + b.width * b.height - shared);
}

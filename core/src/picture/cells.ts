import { assertNever } from "../errors/index.ts";
import type { Layout } from "../show/index.ts";
import type { Rectangle, Size } from "./geometry.ts";

/** A part of a frame in shares of what is to be divided. */
interface Part {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Of the side that it lies along, the large picture's share. */
const LARGE_SHARE = 0.62;

const row = (count: number): Part[] =>
  Array.from({ length: count }, (_, i) => ({ x: i / count, y: 0, width: 1 / count, height: 1 }));
const column = (count: number): Part[] => row(count).map(turned);
const turned = ({ x, y, width, height }: Part): Part => ({ x: y, y: x, width: height, height: width });

/** Rows as even as can be; the upper ones have fewer where they differ. */
function grid(count: number, isUpright: boolean): Part[] {
  const rows = Math.max(1, isUpright ? Math.ceil(Math.sqrt(count)) : Math.floor(Math.sqrt(count)));
  const parts: Part[] = [];
  let left = count;
  for (let at = 0; at < rows; at++) {
    const own = Math.floor(left / (rows - at));
    left -= own;
    parts.push(...row(own).map((part) => ({ ...part, y: at / rows, height: 1 / rows })));
  }
  return parts;
}

function large(count: number): Part[] {
  const others = column(count - 1).map((part) => ({ ...part, x: LARGE_SHARE, width: 1 - LARGE_SHARE }));
  return [{ x: 0, y: 0, width: LARGE_SHARE, height: 1 }, ...others];
}

function partsOf(kind: Layout["kind"], count: number, isUpright: boolean): Part[] {
  if (count < 2) return row(1);
  switch (kind) {
    case "row":
      return row(count);
    case "column":
      return column(count);
    case "grid":
      return grid(count, isUpright);
    case "large-left":
      return large(count);
    case "large-top":
      return large(count).map(turned);
    default:
      return assertNever(kind);
  }
}

/**
 * What lies side by side in a wide frame lies one above the other in an upright one, which has no
 * room beside.
 */
const UPRIGHT: Readonly<Record<Layout["kind"], Layout["kind"]>> = {
  row: "column",
  column: "column",
  grid: "grid",
  "large-left": "large-top",
  "large-top": "large-top",
};

/**
 * Where `count` pictures stand in a part of a frame, in whole pixels, the slide's own first; at
 * least one. `gapPixels` lie between them and around all of them. They never touch, and with the
 * gaps they fill the part. O(count).
 */
export function layoutCells(kind: Layout["kind"], count: number, area: Rectangle, gapPixels: number): Rectangle[] {
  const inner = {
    x: area.x + gapPixels / 2,
    y: area.y + gapPixels / 2,
    width: area.width - gapPixels,
    height: area.height - gapPixels,
  };
  const isUpright = area.height > area.width;
  return partsOf(isUpright ? UPRIGHT[kind] : kind, count, isUpright).map((part) => {
    const [left, top] = [
      inner.x + part.x * inner.width + gapPixels / 2,
      inner.y + part.y * inner.height + gapPixels / 2,
    ];
    const right = inner.x + (part.x + part.width) * inner.width - gapPixels / 2;
    const bottom = inner.y + (part.y + part.height) * inner.height - gapPixels / 2;
    const [x, y] = [Math.round(left), Math.round(top)];
    return { x, y, width: Math.max(1, Math.round(right) - x), height: Math.max(1, Math.round(bottom) - y) };
  });
}

/** The part of a frame that a margin on every side leaves, in whole pixels. */
export function insideMargin({ width, height }: Size, margin: number): Rectangle {
  const by = Math.round(margin);
  return { x: by, y: by, width: Math.max(1, width - 2 * by), height: Math.max(1, height - 2 * by) };
}

import { assertNever } from "../errors/index.ts";
import type { Layout } from "../show/index.ts";
import type { Rectangle, Size } from "./geometry.ts";
import { placeShares } from "./safe-area.ts";

/** A part of a frame in shares of what is to be divided. */
interface Part {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Pictures over another keep so far off its edge, as a share of the shorter side. */
const INSET_MARGIN = 0.06;
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
    // Those that lie over the others have places of their own (insetCells).
    case "over":
      return row(count);
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
  over: "over",
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

/**
 * Where pictures lie over another, each in its own shape: as high or wide as `size` where it is
 * square, together at a place of the area. They stand below each other at its sides, and beside
 * each other at its top, middle and bottom. All are made smaller where they do not fit. In whole
 * pixels. O(count).
 */
export function insetCells(
  shapes: readonly Size[],
  { place, size }: Pick<Layout, "place" | "size">,
  area: Rectangle,
  gapPixels: number,
): Rectangle[] {
  const margin = INSET_MARGIN * Math.min(area.width, area.height);
  const inner = {
    x: area.x + margin,
    y: area.y + margin,
    width: area.width - 2 * margin,
    height: area.height - 2 * margin,
  };
  const wanted = size * Math.min(area.width, area.height);
  // Alike in area, whatever their shape.
  const whole = shapes.map(({ width, height }) => {
    const stretch = Math.sqrt(width / height);
    return { width: wanted * stretch, height: wanted / stretch };
  });
  const isColumn = place.endsWith("left") || place.endsWith("right");
  const gaps = gapPixels * (shapes.length - 1);
  const sum = (lengths: readonly number[]): number => lengths.reduce((total, one) => total + one, 0);
  const across = isColumn ? Math.max(...whole.map(({ width }) => width)) : sum(whole.map(({ width }) => width));
  const down = isColumn ? sum(whole.map(({ height }) => height)) : Math.max(...whole.map(({ height }) => height));
  const scale = Math.min(
    1,
    (inner.width - (isColumn ? 0 : gaps)) / across,
    (inner.height - (isColumn ? gaps : 0)) / down,
  );
  const at = placeShares(place);
  const block = {
    width: scale * across + (isColumn ? 0 : gaps),
    height: scale * down + (isColumn ? gaps : 0),
  };
  const left = inner.x + at.x * (inner.width - block.width);
  const top = inner.y + at.y * (inner.height - block.height);
  let along = 0;
  return whole.map((one) => {
    const [width, height] = [scale * one.width, scale * one.height];
    const x = isColumn ? left + at.x * (block.width - width) : left + along;
    const y = isColumn ? top + along : top + at.y * (block.height - height);
    along += (isColumn ? height : width) + gapPixels;
    return {
      x: Math.round(x),
      y: Math.round(y),
      width: Math.max(1, Math.round(width)),
      height: Math.max(1, Math.round(height)),
    };
  });
}

/** The part of a frame that a margin on every side leaves, in whole pixels. */
export function insideMargin({ width, height }: Size, margin: number): Rectangle {
  const by = Math.round(margin);
  return { x: by, y: by, width: Math.max(1, width - 2 * by), height: Math.max(1, height - 2 * by) };
}

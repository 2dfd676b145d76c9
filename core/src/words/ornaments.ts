import type { Ornament, Rectangle } from "../picture/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Point } from "../values/index.ts";

/** A polygon that is filled in the colour of the words; its corners in order. */
export type Shape = readonly Point[];

/** Room that an ornament takes, in ems of the main letters. */
export interface OrnamentRoom {
  /** On one side: that which the words are set against. */
  readonly before: number;
  /** On both sides. */
  readonly beside: number;
  /** Above and below all words. */
  readonly above: number;
  /** Between the first line and the second. */
  readonly belowFirst: number;
}

const NO_ROOM: OrnamentRoom = { before: 0, beside: 0, above: 0, belowFirst: 0 };
/** Widths of lines, in ems. */
const SIDE_RULE = 0.09;
const THIN = 0.022;
const SIDE_GAP = 0.36;

const ROOMS: Readonly<Record<Ornament, OrnamentRoom>> = {
  none: NO_ROOM,
  "side-rule": { ...NO_ROOM, before: SIDE_RULE + SIDE_GAP },
  "short-rule": { ...NO_ROOM, belowFirst: 0.42 },
  rules: { ...NO_ROOM, above: 0.3 },
  diamond: { ...NO_ROOM, belowFirst: 0.5 },
  frame: { ...NO_ROOM, beside: 0.62, above: 0.5 },
  corners: { ...NO_ROOM, beside: 0.5, above: 0.36 },
};

/** The room that an ornament wants. */
export const ornamentRoom = (ornament: Ornament): OrnamentRoom => ROOMS[ornament];

interface WordsAround {
  /** With the ornament's room. */
  readonly bounds: Rectangle;
  readonly lines: readonly { readonly box: Rectangle; readonly written: number }[];
  readonly isAtRight: boolean;
}

/** What is drawn beside words, in pixels of the film; `em` of their main letters. */
export function ornamentShapes(ornament: Ornament, { bounds, lines, isAtRight }: WordsAround, em: number): Shape[] {
  const { x, y, width, height } = bounds;
  const thin = Math.max(1, THIN * em);
  switch (ornament) {
    case "none":
      return [];
    case "side-rule": {
      const thick = SIDE_RULE * em;
      return [rectangle(isAtRight ? x + width - thick : x, y + 0.06 * height, thick, 0.88 * height)];
    }
    case "short-rule": {
      const middle = betweenFirstAndSecond(lines);
      if (!middle) return [];
      const long = Math.min(1.5 * em, 0.5 * width);
      return [rectangle(middle.across * (width - long) + x, middle.y - thin / 2, long, thin)];
    }
    case "rules":
      return [rectangle(x, y, width, thin), rectangle(x, y + height - thin, width, thin)];
    case "diamond": {
      const middle = betweenFirstAndSecond(lines);
      if (!middle) return [];
      const [half, arm, gap] = [0.085 * em, 0.9 * em, 0.2 * em];
      const centre = x + middle.across * (width - 2 * (arm + gap)) + arm + gap;
      return [
        [
          { x: centre, y: middle.y - half },
          { x: centre + half, y: middle.y },
          { x: centre, y: middle.y + half },
          { x: centre - half, y: middle.y },
        ],
        rectangle(centre - gap - arm, middle.y - thin / 2, arm, thin),
        rectangle(centre + gap, middle.y - thin / 2, arm, thin),
      ];
    }
    case "frame":
      return [
        rectangle(x, y, width, thin),
        rectangle(x, y + height - thin, width, thin),
        rectangle(x, y, thin, height),
        rectangle(x + width - thin, y, thin, height),
      ];
    case "corners": {
      const arm = Math.min(0.55 * em, width / 4, height / 4);
      const right = x + width;
      const bottom = y + height;
      return [
        rectangle(x, y, arm, thin),
        rectangle(x, y, thin, arm),
        rectangle(right - arm, y, arm, thin),
        rectangle(right - thin, y, thin, arm),
        rectangle(x, bottom - thin, arm, thin),
        rectangle(x, bottom - arm, thin, arm),
        rectangle(right - arm, bottom - thin, arm, thin),
        rectangle(right - thin, bottom - arm, thin, arm),
      ];
    }
  }
}

/**
 * The middle of the room below the first written line, and how far across words are set; null where
 * there is no second line.
 */
function betweenFirstAndSecond(lines: WordsAround["lines"]): { readonly y: number; readonly across: number } | null {
  const first = lines.findLast(({ written }) => written === lines[0]?.written);
  const second = lines.find(({ written }) => written !== lines[0]?.written);
  if (!first || !second) return null;
  const left = Math.min(...lines.map(({ box }) => box.x));
  const widest = Math.max(...lines.map(({ box }) => box.width));
  const narrow = itemAt(
    lines.toSorted((a, b) => a.box.width - b.box.width),
    0,
  ).box;
  const spare = widest - narrow.width;
  return {
    y: (first.box.y + first.box.height + second.box.y) / 2,
    across: spare > 1 ? (narrow.x - left) / spare : 0.5,
  };
}

const rectangle = (x: number, y: number, width: number, height: number): Shape => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
];

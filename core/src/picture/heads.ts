import type { Turn } from "../show/index.ts";
import type { Point } from "../values/index.ts";
import { clamp, type Rectangle } from "./geometry.ts";
import { type Subject, turnBack, turnBox } from "./subject.ts";

/** A face as a finder saw it: from the eyebrows or the hairline to the chin. */
export interface FoundFace {
  /** In shares of the picture's width and height; it may reach beyond the picture. */
  readonly box: Rectangle;
  /** 0 to 1, as sure as the finder is. */
  readonly confidence: number;
  /** How far the picture has to be turned for the face to be upright. */
  readonly turn: Turn;
  /** The middles of its eyes, the one at the left first; absent where they are not known. */
  readonly eyes?: readonly [Point, Point] | undefined;
  /** Whether its eyes seem open; absent where they are too small to tell. */
  readonly eyesOpen?: boolean | undefined;
}

/**
 * What a head has around its face, in the face's heights and widths: hair above, a chin or beard
 * below, ears and hair beside. Measured on the labelled photographs of `npm run bench:faces`.
 */
const HAIR = 0.3;
const CHIN = 0.06;
const EARS = 0.14;
/**
 * Room around a head that stays in view, as a share of the head's own height above it and of its
 * width beside it: a head that touches the frame looks cut. Common practice.
 */
const ROOM_ABOVE = 0.2;
const ROOM_BESIDE = 0.2;
/**
 * Heads of less than this share of the largest one's height belong to people in the background:
 * they may be cut.
 */
const BACKGROUND_SHARE = 0.4;
export const MOST_HEADS = 60;

/** The whole head around a face, within the picture. */
export function headAround({ box, turn }: Pick<FoundFace, "box" | "turn">): Rectangle {
  const { x, y, width, height } = turnBox(box, turn);
  const head = within(x - EARS * width, y - HAIR * height, x + (1 + EARS) * width, y + (1 + CHIN) * height);
  return turnBox(head, turnBack(turn));
}

/**
 * The heads that a picture is about, the largest first: `MOST_HEADS` at most, without those of the
 * background and those that lie beside the picture. `aspect` is the picture's width over its
 * height. O(n log n).
 */
export function importantHeads(faces: readonly FoundFace[], aspect: number): Rectangle[] {
  return importantFaces(faces, aspect)
    .map(headAround)
    .filter(({ width, height }) => width > 0 && height > 0);
}

/**
 * Of the important faces whose eyes can be told, the share whose eyes seem open, 0 to 1; undefined
 * where there are none.
 */
export function openEyesShare(faces: readonly FoundFace[], aspect: number): number | undefined {
  const told = importantFaces(faces, aspect).filter(({ eyesOpen }) => eyesOpen !== undefined);
  return told.length === 0 ? undefined : told.filter(({ eyesOpen }) => eyesOpen).length / told.length;
}

function importantFaces(faces: readonly FoundFace[], aspect: number): FoundFace[] {
  const sizeOf = ({ box }: FoundFace): number => Math.max(box.width * aspect, box.height);
  const sorted = [...faces].sort((a, b) => sizeOf(b) - sizeOf(a));
  const [largest] = sorted;
  if (!largest) return [];
  return sorted.filter((face) => sizeOf(face) >= BACKGROUND_SHARE * sizeOf(largest)).slice(0, MOST_HEADS);
}

/**
 * What must stay in view of a picture of people: all its important heads, with room above them.
 * The point lies between them, nearer to the large ones. Null where there are no heads.
 */
export function subjectOfHeads(heads: Rectangle[]): Subject | null {
  if (heads.length === 0) return null;
  const left = Math.min(...heads.map(({ x, width }) => x - ROOM_BESIDE * width));
  const top = Math.min(...heads.map(({ y, height }) => y - ROOM_ABOVE * height));
  const right = Math.max(...heads.map(({ x, width }) => x + (1 + ROOM_BESIDE) * width));
  const bottom = Math.max(...heads.map(({ y, height }) => y + height));
  const weights = heads.map(({ width, height }) => width * height);
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const mean = (middle: (head: Rectangle) => number): number =>
    heads.reduce((sum, head, i) => sum + middle(head) * (weights[i] ?? 0), 0) / total;
  return {
    point: { x: mean(({ x, width }) => x + width / 2), y: mean(({ y, height }) => y + height / 2) },
    region: within(left, top, right, bottom),
    heads,
  };
}

function within(left: number, top: number, right: number, bottom: number): Rectangle {
  const [x, y] = [clamp(left, 0, 1), clamp(top, 0, 1)];
  return { x, y, width: clamp(right, 0, 1) - x, height: clamp(bottom, 0, 1) - y };
}

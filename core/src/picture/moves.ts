import { itemAt } from "../presence/index.ts";
import type { MoveWish } from "../show/index.ts";
import type { Frames, Seconds } from "../time/index.ts";
import type { Point, View } from "../values/index.ts";
import { keepingInView, LARGEST_ZOOM, placedPicture, showsRegion, viewAround } from "./framing.ts";
import { between, clamp, coversFrame, type Rectangle, rectangleBetween, type Size } from "./geometry.ts";
import { seededChoice } from "./seeded-choice.ts";
import type { Subject } from "./subject.ts";

/** Where a picture lies from frame to frame: plain data. */
export interface PlannedMove {
  /** Of the whole picture, in pixels of the frame, up to startFrame and from endFrame on. */
  readonly start: Rectangle;
  readonly end: Rectangle;
  readonly startFrame: Frames;
  /** Inclusive: the frame that shows the end. */
  readonly endFrame: Frames;
  /** Whether it sets off and arrives gently; one that is always under way does neither. */
  readonly eased: boolean;
}

/**
 * No point of the picture moves faster than this across the frame, in frame widths a second. Common
 * practice: at 24 frames a second what crosses the frame in less than seven seconds is seen to
 * judder.
 */
export const FASTEST_MOVE = 1 / 7;
/** What the rule asks for at full strength: slow enough that a move is felt rather than seen. */
const RULE_SPEED = 0.034;
/** To get room for a move across, a picture comes nearer by at most so much. */
const MOST_NEARER = 1.12;

export type MoveDirection = "in" | "out" | "left" | "right" | "up" | "down";

export interface MoveRequest {
  readonly picture: Size;
  readonly frame: Size;
  /** As the picture is seen standing still. */
  readonly rest: View;
  readonly subject: Subject | null;
  readonly direction: MoveDirection;
  /** 0 to 1. */
  readonly strength: number;
  /** How long the move takes. */
  readonly seconds: Seconds;
}

/**
 * Start and end of a move by rule. What is asked for is a speed, so that short and long slides move
 * alike. The whole subject stays in view and the picture keeps covering what it covers; where there
 * is no room, the move is as much smaller, down to none.
 */
export function ruledViews(request: MoveRequest): { readonly start: View; readonly end: View } {
  const { rest, strength, seconds, direction } = request;
  const travel = Math.min(RULE_SPEED * between(0.25, 1, strength), FASTEST_MOVE) * seconds;
  if (direction === "in" || direction === "out") {
    // The corners of the frame are half a width from its middle, and move fastest.
    const close = closerView(request, Math.min(LARGEST_ZOOM, 1 + 1.4 * travel));
    return direction === "in" ? { start: rest, end: close } : { start: close, end: rest };
  }
  return acrossViews(request, travel);
}

/** A view that is nearer by a factor, towards the subject, with all of it still in view. */
function closerView({ rest, picture, frame, subject }: MoveRequest, factor: number): View {
  const point = subject?.point ?? rest.centre;
  for (let closer = factor; closer > 1.005; closer = 1 + (closer - 1) * 0.7) {
    const zoom = rest.zoom * closer;
    const around = viewAround(point, zoom, picture, frame);
    // A picture that stands beside its fill grows where it is: it does not wander over it.
    const view = rest.zoom < 1 ? { centre: growingCentre(rest, zoom, picture, frame, around), zoom } : around;
    const kept = subject ? keepingInView(view, subject.region, picture, frame) : view;
    if (!subject || showsRegion(kept, subject.region, picture, frame)) return kept;
  }
  return rest;
}

/** Only along the side that the zoomed picture overshoots may its centre follow the subject. */
function growingCentre(rest: View, zoom: number, picture: Size, frame: Size, around: View): Point {
  const placed = placedPicture({ centre: rest.centre, zoom }, picture, frame);
  return {
    x: placed.width > frame.width ? around.centre.x : rest.centre.x,
    y: placed.height > frame.height ? around.centre.y : rest.centre.y,
  };
}

/**
 * From one side to the other with the subject in view all the way. A picture that shows its fill,
 * or has no room, comes nearer first.
 */
function acrossViews(request: MoveRequest, travel: number): { start: View; end: View } {
  const { rest, picture, frame, subject, direction } = request;
  const horizontal = direction === "left" || direction === "right";
  const side = horizontal ? "width" : "height";
  const axis = horizontal ? "x" : "y";
  const travelPixels = travel * frame.width;
  const room = (zoom: number): number => {
    const placed = placedPicture({ centre: rest.centre, zoom }, picture, frame);
    return placed[side] - frame[side];
  };
  const keeps = (zoom: number): boolean => {
    if (!subject) return true;
    const around = viewAround(subject.point, zoom, picture, frame);
    return showsRegion(keepingInView(around, subject.region, picture, frame), subject.region, picture, frame);
  };
  let zoom = rest.zoom;
  while (room(zoom) < travelPixels && zoom < rest.zoom * MOST_NEARER && keeps(zoom * 1.01)) zoom *= 1.01;
  const placed = placedPicture({ centre: rest.centre, zoom }, picture, frame);
  const shown = frame[side] / placed[side];
  if (shown >= 1) return { start: rest, end: rest };
  const reach = Math.min(travelPixels, room(zoom)) / placed[side];
  const middle = viewAround(subject?.point ?? rest.centre, zoom, picture, frame);
  const centre = clamp(middle.centre[axis], shown / 2 + reach / 2, 1 - shown / 2 - reach / 2);
  const at = (offset: number): View => {
    const view = { centre: { ...middle.centre, [axis]: centre + offset }, zoom };
    return subject ? keepingInView(view, subject.region, picture, frame) : view;
  };
  const [low, high] = [at(-reach / 2), at(reach / 2)];
  // The frame goes where the move is named after.
  return direction === "right" || direction === "down" ? { start: low, end: high } : { start: high, end: low };
}

const DIRECTIONS: readonly MoveDirection[] = ["in", "out", "left", "right", "up", "down"];

/**
 * Which way a slide moves by rule: at random, but never as the slide before it. It moves across
 * only where the picture covers the frame, and along the side where the picture is longer than the
 * frame.
 */
export function chosenDirection(
  wish: MoveWish,
  seed: number,
  name: string,
  before: MoveDirection | null,
  rest: View,
  picture: Size,
  frame: Size,
): MoveDirection | null {
  if (wish.kind === "still") return null;
  if (wish.kind !== "rule") return wish.kind;
  const placed = placedPicture(rest, picture, frame);
  const covers = coversFrame(placed, frame);
  const isTall = placed.height > frame.height * 1.02;
  const fitting = DIRECTIONS.filter((direction) => {
    if (direction === "in" || direction === "out") return true;
    if (!covers) return false;
    return isTall === (direction === "up" || direction === "down");
  });
  const others = fitting.filter((direction) => direction !== before);
  return itemAt(others, seededChoice(seed, name, others.length));
}

/**
 * Where the picture lies in a frame. A move that is not eased takes even steps, so that the eye
 * sees no jerk.
 */
export function placedAt({ start, end, startFrame, endFrame, eased }: PlannedMove, frame: Frames): Rectangle {
  if (endFrame <= startFrame) return start;
  const share = clamp((frame - startFrame) / (endFrame - startFrame), 0, 1);
  return rectangleBetween(start, end, eased ? share * share * (3 - 2 * share) : share);
}

/** Whether a picture lies elsewhere in one frame than in another. */
export const isMoving = ({ start, end }: PlannedMove): boolean =>
  start.x !== end.x || start.y !== end.y || start.width !== end.width || start.height !== end.height;

/** How fast the fastest point in sight moves, in frame widths a second. */
export function moveSpeed(move: PlannedMove, frame: Size, framesPerSecond: number): number {
  const seconds = Math.max(1, move.endFrame - move.startFrame) / framesPerSecond;
  const corners = [0, 1].flatMap((x) => [0, 1].map((y) => ({ x: x * frame.width, y: y * frame.height })));
  const distance = Math.max(
    ...[move.start, move.end].flatMap((seen) =>
      corners.map((corner) => {
        const [u, v] = [(corner.x - seen.x) / seen.width, (corner.y - seen.y) / seen.height];
        const dx = move.end.x - move.start.x + u * (move.end.width - move.start.width);
        const dy = move.end.y - move.start.y + v * (move.end.height - move.start.height);
        return Math.hypot(dx, dy);
      }),
    ),
  );
  // An eased move is half as fast again in its middle.
  return ((move.eased ? 1.5 : 1) * distance) / frame.width / seconds;
}

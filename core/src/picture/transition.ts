import type { TransitionLanding, TransitionWish } from "../show/index.ts";
import { type FrameRate, framesPerSecond } from "../time/index.ts";

/** The frames in which two pictures are seen at once, endFrame exclusive; a cut has none and both are the landing. */
export interface PlannedTransition {
  readonly kind: "cut" | "dissolve";
  readonly startFrame: number;
  readonly endFrame: number;
}

/**
 * Places the transition into each slot but the first: an odd number of frames whose middle one shows exactly half of each picture. The slot's first
 * frame is that middle one, the transition's first frame, or the first one after it (`point`). It is shortened until neighbouring transitions at most
 * touch, so that three pictures are never seen at once, and becomes a cut where there is no room for three frames.
 * `starts` are the first frames of all slots in order, and the end of the film behind them; `wishes[i]` leads into slot i + 1.
 */
export function placeTransitions(
  starts: readonly number[],
  wishes: readonly TransitionWish[],
  rate: FrameRate,
  point: TransitionLanding["point"] = "middle",
): PlannedTransition[] {
  return starts.slice(1, -1).map((landing, i) => {
    const wish = wishes[i]!;
    const half = wish.kind === "cut" ? 0 : Math.floor((wish.seconds * framesPerSecond(rate) - 1) / 2);
    const slotBefore = landing - starts[i]!;
    const slotAfter = starts[i + 2]! - landing;
    const free = { start: slotAfter, middle: Math.min(slotBefore, slotAfter), end: slotBefore }[point];
    const side = Math.min(half, Math.floor((free - 1) / 2));
    if (side < 1) return { kind: "cut", startFrame: landing, endFrame: landing };
    const length = 2 * side + 1;
    const startFrame = landing - { start: 0, middle: side, end: length }[point];
    return { kind: "dissolve", startFrame, endFrame: startFrame + length };
  });
}

/** The frame that shows half of each picture; of a cut, the new picture's first. */
export const halfwayFrame = ({ kind, startFrame, endFrame }: PlannedTransition): number =>
  kind === "cut" ? startFrame : (startFrame + endFrame - 1) / 2;

/**
 * Share of the new picture in a frame of a dissolve, strictly between 0 and 1, rising evenly; exactly 0.5 in the middle
 * frame. Two equal greys stay that grey; from black to white the middle frame has the code value 128 of 255 in the drawn picture.
 */
export function dissolveShare(transition: PlannedTransition, frame: number): number {
  return (frame - transition.startFrame + 1) / (transition.endFrame - transition.startFrame + 1);
}

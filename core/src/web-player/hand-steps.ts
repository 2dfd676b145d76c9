import { type PictureTrack, slotIndexAt } from "../picture/index.ts";
import type { Frames } from "../time/index.ts";

/**
 * A stretch of a film that is played for one step of a hand: it begins to come, it stands, and on
 * its last frame it waits.
 */
export interface HandStep {
  readonly slotIndex: number;
  readonly startFrame: Frames;
  /** Where it waits: the last frame before the next slide begins to come. Inclusive. */
  readonly restFrame: Frames;
}

/**
 * What is played for the slides of a film when they are stepped by hand, one for each slot. Steps
 * follow each other without a gap; a slide that never stands by itself, because the next one comes
 * while it still arrives, waits on its own landing. The last rests before the film sinks to black.
 */
export function handSteps(track: Pick<PictureTrack, "slots" | "fadeOut">): HandStep[] {
  const { slots, fadeOut } = track;
  let startFrame = 0;
  return slots.map((slot, slotIndex) => {
    const next = slots[slotIndex + 1];
    const end = next ? Math.min(next.transitionIn.startFrame, next.startFrame) : (fadeOut?.startFrame ?? slot.endFrame);
    const restFrame = Math.max(slot.startFrame, end - 1, startFrame);
    const step = { slotIndex, startFrame, restFrame };
    startFrame = restFrame + 1;
    return step;
  });
}

/** The step that a place of the film belongs to, so that a hand goes on from where the film was. */
export const stepAt = (steps: readonly HandStep[], frame: Frames): number => slotIndexAt(steps, frame);

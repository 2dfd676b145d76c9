import { firstIndex } from "../numeric/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Frames, Seconds } from "../time/index.ts";
import { clamp, type Size } from "./geometry.ts";

/** Which of a clip's seconds are shown while its slide is seen. */
export interface PlannedClip {
  /** The film's frame that shows `startSeconds` of the clip's own time (0 is its first frame). */
  readonly startFrame: Frames;
  readonly startSeconds: Seconds;
  /** How far the clip goes on from one frame of the film to the next. */
  readonly secondsPerFrame: number;
  /**
   * Nothing before or behind is shown: there the first and the last frame stand. Both inclusive.
   */
  readonly firstSeconds: Seconds;
  readonly lastSeconds: Seconds;
  /** As it is drawn, after all turning: even, and no larger than a film needs. */
  readonly size: Size;
}

/** One instant of a clip, as a layer shows it. */
export interface ClipInstant {
  /** Of the slot that shows it: two that show the same clip are read each by itself. */
  readonly slotIndex: number;
  readonly seconds: Seconds;
  readonly size: Size;
  /**
   * How far it goes on to the next frame; 0 where the clip stands before its first second or behind
   * its last.
   */
  readonly secondsPerFrame: number;
}

/** What a frame of the film shows of a slot's clip: the second of the frame's beginning. */
export function clipAt(clip: PlannedClip, slotIndex: number, frame: Frames): ClipInstant {
  const free = clip.startSeconds + (frame - clip.startFrame) * clip.secondsPerFrame;
  const seconds = clamp(free, clip.firstSeconds, clip.lastSeconds);
  return { slotIndex, seconds, size: clip.size, secondsPerFrame: seconds === free ? clip.secondsPerFrame : 0 };
}

/**
 * Times of a film's and a clip's frames are quotients that differ in their last digits; nearer ones
 * than this are the same.
 */
const SAME_TIME_SECONDS = 5e-4;

/**
 * Index of the frame that a clip shows at an instant: the last one that begins at or before it; the
 * first where none does. `starts` are the frames' first instants, ascending. O(log frames).
 */
export function clipFrameAt(starts: ArrayLike<number>, seconds: Seconds): number {
  const next = firstIndex(starts.length, (index) => itemAt(starts, index) > seconds + SAME_TIME_SECONDS);
  return Math.max(0, next - 1);
}

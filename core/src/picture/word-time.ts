import type { Frames } from "../time/index.ts";
import { lastFrameOf, type PlannedEntrance } from "./entrance.ts";

/** When words of a slot are seen, in frames of the film. */
export interface WordTime {
  /** The first frame in which something of them is seen. */
  readonly startFrame: Frames;
  /** Exclusive. */
  readonly endFrame: Frames;
  /** So many frames at the beginning and at the end show less than all of them. */
  readonly fadeInFrames: Frames;
  readonly fadeOutFrames: Frames;
  /** They go from below the frame to above it in this time. */
  readonly isScrolling: boolean;
  /** Null: they fade. */
  readonly entrance: PlannedEntrance | null;
}

/**
 * How much of words is seen in a frame, 0 to 1; even steps, of which neither nothing nor all is
 * one.
 */
export function wordAlpha({ startFrame, endFrame, fadeInFrames, fadeOutFrames }: WordTime, frame: Frames): number {
  if (frame < startFrame || frame >= endFrame) return 0;
  return Math.min(1, (frame - startFrame + 1) / (fadeInFrames + 1), (endFrame - frame) / (fadeOutFrames + 1));
}

/**
 * How far scrolling words have come in a frame, from 0 to 1 while they are seen; null where they
 * stand.
 */
export const scrolledShare = ({ isScrolling, startFrame, endFrame }: WordTime, frame: Frames): number | null =>
  isScrolling ? (frame - startFrame + 1) / (endFrame - startFrame + 1) : null;

/** Whether words look different in a frame than in the one before it. */
export const wordsChange = (time: WordTime, frame: Frames): boolean =>
  (time.isScrolling && frame >= time.startFrame && frame <= time.endFrame) ||
  (time.entrance !== null && frame >= time.startFrame && frame <= lastFrameOf(time.entrance) + 1) ||
  wordAlpha(time, frame) !== wordAlpha(time, frame - 1);

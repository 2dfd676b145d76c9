import type { FrameRate } from "@humming-tide/core/time";

/** A stretch of a film that is encoded by itself; tiles the film with the others. */
export interface FilmSegment {
  readonly index: number;
  readonly fromFrame: number;
  /** Exclusive. */
  readonly endFrame: number;
}

const SEGMENT_SECONDS = 10;

/**
 * A film in stretches of about ten seconds, the last one shorter. Each lasts a whole number of
 * milliseconds, which is as exactly as files say how long they are: joined, every frame is where it
 * would be in one piece.
 */
export function filmSegments(totalFrames: number, { num, den }: FrameRate): FilmSegment[] {
  // The fewest frames that last whole milliseconds: n * 1000 * den / num is whole.
  const fewest = num / greatestDivisor(num, 1000 * den);
  const length = fewest * Math.max(1, Math.round((SEGMENT_SECONDS * num) / den / fewest));
  return Array.from({ length: Math.ceil(totalFrames / length) }, (_, index) => ({
    index,
    fromFrame: index * length,
    endFrame: Math.min(totalFrames, (index + 1) * length),
  }));
}

const greatestDivisor = (a: number, b: number): number => (b === 0 ? a : greatestDivisor(b, a % b));

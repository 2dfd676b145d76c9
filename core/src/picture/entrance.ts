import type { Entrance } from "../show/index.ts";
import type { Frames } from "../time/index.ts";
import { clamp } from "./geometry.ts";

/** How words appear in another way than by a fade, in frames of the film. */
export interface PlannedEntrance {
  readonly kind: Exclude<Entrance, "fade">;
  /** The frame in which each written line begins to appear. */
  readonly lineFrames: readonly Frames[];
  /** What a line takes to be there; of "track", what all of it takes. */
  readonly unitFrames: Frames;
  /** When the ornament begins. */
  readonly ornamentFrame: Frames;
}

/** How far words have come in a frame. */
export interface EntranceState {
  readonly kind: PlannedEntrance["kind"];
  /** Of each written line, 0 to 1. */
  readonly lines: readonly number[];
  readonly ornament: number;
  /** Of the whole movement, 0 to 1. */
  readonly whole: number;
}

/** Null once everything stands. A frame shows a little in its first frame already. O(lines). */
export function entranceAt(entrance: PlannedEntrance | null, frame: Frames): EntranceState | null {
  if (!entrance || frame > lastFrameOf(entrance)) return null;
  const { kind, lineFrames, unitFrames, ornamentFrame } = entrance;
  const shareFrom = (first: Frames): number => eased(clamp((frame - first + 1) / (unitFrames + 1), 0, 1));
  return {
    kind,
    lines: kind === "track" ? lineFrames.map(() => 1) : lineFrames.map(shareFrom),
    ornament: kind === "track" ? 1 : shareFrom(ornamentFrame),
    whole: kind === "track" ? clamp((frame - ornamentFrame + 1) / (unitFrames + 1), 0, 1) : 1,
  };
}

/** The last frame in which not everything stands. */
export const lastFrameOf = ({ lineFrames, unitFrames, ornamentFrame }: PlannedEntrance): Frames =>
  Math.max(ornamentFrame, ...lineFrames) + unitFrames - 1;

/** Quick at first, then slower: words settle. */
const eased = (share: number): number => 1 - (1 - share) ** 2;

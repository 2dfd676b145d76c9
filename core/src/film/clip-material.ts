import type { ClipPart } from "../show/index.ts";
import type { Seconds } from "../time/index.ts";

/** What of a clip there is to show, in its own seconds. */
export interface ClipMaterial {
  readonly inSeconds: Seconds;
  /** Exclusive. */
  readonly outSeconds: Seconds;
  /** Null where there is none, or where it lies outside the part that may be shown. */
  readonly momentSeconds: Seconds | null;
  /** Seconds of the clip in a second of the film. */
  readonly speed: number;
}

const SHORTEST_CLIP_SECONDS = 0.04;

/** The part that a person chose of a clip so long; without a choice all of it. */
export function clipMaterial(part: ClipPart | null, wholeSeconds: Seconds): ClipMaterial {
  const outSeconds = Math.min(wholeSeconds, part?.outSeconds ?? wholeSeconds);
  const inSeconds = Math.max(0, Math.min(part?.inSeconds ?? 0, outSeconds - SHORTEST_CLIP_SECONDS));
  const at = part?.momentSeconds ?? null;
  const momentSeconds = at !== null && at >= inSeconds && at <= outSeconds ? at : null;
  return { inSeconds, outSeconds, momentSeconds, speed: part?.speed ?? 1 };
}

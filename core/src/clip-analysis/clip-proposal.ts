import type { Seconds } from "../time/index.ts";
import { bestStretches, type ClipStretch } from "./best-stretches.ts";
import { type ClipMoment, clipMoments, type WatchedClip } from "./clip-moments.ts";
import { type ProposedTrim, usablePart } from "./usable-part.ts";

/** What is proposed for a clip, in its own seconds. */
export interface ClipProposal {
  /** The strongest first. */
  readonly moments: readonly ClipMoment[];
  /** What to leave out at its ends; null where an end is good as it is. */
  readonly start: ProposedTrim | null;
  readonly end: ProposedTrim | null;
  /** Of a long clip, in its order. */
  readonly stretches: readonly ClipStretch[];
}

/** O(steps log steps). */
export function clipProposal(clip: WatchedClip): ClipProposal {
  const part = usablePart(clip.seen);
  const moments = clipMoments(clip, part);
  return { moments, ...part, stretches: bestStretches(clip, part, moments) };
}

/** A part of a clip as a slide names it. */
export interface ProposedPart {
  readonly inSeconds: Seconds;
  /** Exclusive; null: to the clip's end. */
  readonly outSeconds: Seconds | null;
  readonly momentSeconds: Seconds | null;
}

/**
 * The whole clip without its bad ends, with its strongest moment; null where nothing is proposed.
 */
export function proposedPart(
  { moments, start, end }: Pick<ClipProposal, "moments" | "start" | "end">,
  durationSeconds: Seconds,
): ProposedPart | null {
  const inSeconds = start?.seconds ?? 0;
  const outSeconds = end ? durationSeconds - end.seconds : null;
  const inside = moments.find(({ seconds }) => seconds >= inSeconds && seconds <= (outSeconds ?? durationSeconds));
  if (!start && !end && !inside) return null;
  return { inSeconds, outSeconds, momentSeconds: inside?.seconds ?? null };
}

/** A stretch as a slide names it. */
export const partOfStretch = ({ startSeconds, endSeconds, moment }: ClipStretch): ProposedPart => ({
  inSeconds: startSeconds,
  outSeconds: endSeconds,
  momentSeconds: moment?.seconds ?? null,
});

import type { GainCurve } from "./gain-curve.ts";

/** A moment of the film and the moment of the song that is heard then. */
export interface TimePoint {
  readonly filmSeconds: number;
  readonly songSeconds: number;
}

/** A stretch of one song in the film's sound. Pieces may overlap: they are added. */
export interface SoundPiece {
  readonly songSha256: string;
  /** At least two, rising in both times; straight lines between. The piece is heard from the first (inclusive) to the last (exclusive). */
  readonly time: readonly TimePoint[];
  /** Over film time: level curve, crossfades, joins. */
  readonly gain: GainCurve;
}

/** The sound of a film, or of anything else that is played: what is heard when, and how loud. */
export interface SoundPlan {
  readonly pieces: readonly SoundPiece[];
  readonly lengthSeconds: number;
  /** Over all pieces together: the end of the film. */
  readonly gain: GainCurve;
  readonly fadeOut: { readonly startSeconds: number; readonly endSeconds: number };
}

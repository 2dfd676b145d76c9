import type { FilmPlan } from "@humming-tide/core/film";
import { itemAt } from "@humming-tide/core/presence";
import type { SoundPiece } from "@humming-tide/core/sound";

/** Where a voice is heard in the film; undefined where it is not. */
export const voicePiece = (plan: FilmPlan, voiceId: string): SoundPiece | undefined =>
  plan.sound.pieces.find(({ owner }) => owner.kind === "voice" && owner.id === voiceId);

/**
 * The moment of the film at which second 0 of a voice's recording would be heard: voices are played
 * as fast as they were spoken.
 */
export const originOf = ({ time }: SoundPiece): number => itemAt(time, 0).filmSeconds - itemAt(time, 0).soundSeconds;

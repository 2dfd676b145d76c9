import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import type { GainCurve } from "./gain-curve.ts";

/** A moment of the film and the moment of the recording that is heard then. */
export interface TimePoint {
  readonly filmSeconds: Seconds;
  readonly soundSeconds: Seconds;
}

/**
 * Whose sound it is: a song of the show, a voice, or the clip on a slide. Ids are those of the show
 * document.
 */
export interface SoundOwner {
  readonly kind: "song" | "voice" | "clip";
  readonly id: string;
}

/** The same for the same owner. */
export const ownerKey = ({ kind, id }: SoundOwner): string => `${kind} ${id}`;

/** A stretch of one recording in the film's sound. Pieces may overlap: they are added. */
export interface SoundPiece {
  readonly owner: SoundOwner;
  /** Of the decode that is heard: see soundName(). */
  readonly soundName: string;
  /**
   * At least two, rising in both times; straight lines between. The piece is heard from the first
   * (inclusive) to the last (exclusive).
   */
  readonly time: readonly TimePoint[];
  /** Over film time: level curve, fades, crossfades, joins. */
  readonly gain: GainCurve;
}

/** How loud the whole is to be. */
export interface MasterWish {
  /** Integrated loudness after ITU-R BS.1770; null: as it is mixed. */
  readonly targetLufs: number | null;
  /** True peaks stay at or under this. */
  readonly ceilingDbtp: number;
}

/** The sound of a film, or of anything else that is played: what is heard when, and how loud. */
export interface SoundPlan {
  readonly pieces: readonly SoundPiece[];
  readonly lengthSeconds: Seconds;
  /** Over all songs together: where they make room for speech, and the end of the film. */
  readonly musicGain: GainCurve;
  readonly fadeOut: { readonly startSeconds: Seconds; readonly endSeconds: Seconds };
  /** Null: played as it is mixed, with peaks that may clip. */
  readonly master: MasterWish | null;
}

/** Pieces that are played by themselves, as they are. */
export const plainSound = (pieces: readonly SoundPiece[], lengthSeconds: Seconds): SoundPlan => ({
  pieces,
  lengthSeconds,
  musicGain: [],
  fadeOut: { startSeconds: lengthSeconds, endSeconds: lengthSeconds },
  master: null,
});

/**
 * Which decode of a file: as it was recorded, or with its noise taken down. Songs have one of their
 * own, made when they came in.
 */
export type SoundVersion = "song" | "spoken" | "cleaned";

/** The name under which a decode is asked for: a content hash, with what was done to it. */
export const soundName = (sha256: string, version: SoundVersion): string =>
  version === "song" ? sha256 : `${sha256}-${version}`;

/** The hash and version in a name; null where it is none. */
export function parseSoundName(name: string): { readonly sha256: string; readonly version: SoundVersion } | null {
  const match = /^([0-9a-f]{64})(?:-(spoken|cleaned))?$/.exec(name);
  return match && { sha256: itemAt(match, 1), version: (match[2] ?? "song") as SoundVersion };
}

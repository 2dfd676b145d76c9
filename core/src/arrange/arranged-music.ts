import type { Grid } from "../grid/index.ts";
import type { Stretch } from "../music/index.ts";
import type { Marker } from "../show/index.ts";
import { piecewiseLinear, type SoundPiece, type TimePoint } from "../sound/index.ts";
import type { Seconds } from "../time/index.ts";

/** A run of one song in the film. */
export interface MusicPiece extends SoundPiece {
  readonly songId: string;
  /**
   * Moments at which the song's own material begins and ends to be the one that counts: beats
   * before and behind belong to its neighbours.
   */
  readonly startSeconds: Seconds;
  readonly endSeconds: Seconds;
}

/** A song's place in the film. */
export interface ArrangedSong {
  readonly songId: string;
  /** Film seconds from its first to its last sound; songs may overlap. */
  readonly startSeconds: Seconds;
  readonly endSeconds: Seconds;
  /** How it comes in over the song before; null where it does not. */
  readonly bridge: ArrangedBridge | null;
  /** What could not be done as it was wished. */
  readonly remarks: readonly string[];
}

export interface ArrangedBridge extends Stretch {
  readonly bars: number;
  /** Beats a minute at its beginning and end, of the outgoing and of the incoming song. */
  readonly fromBpm: number;
  readonly toBpm: number;
  readonly largestChange: number;
}

interface FilmSection extends Stretch {
  readonly label: string;
  readonly songId: string;
}

interface FilmAccent {
  readonly seconds: Seconds;
  readonly strength: number;
}

/** All songs of a show as one music, in film time. */
export interface ArrangedMusic {
  readonly lengthSeconds: Seconds;
  /**
   * How far there is sound at all: the film's last frame may reach behind the last sound of the
   * music.
   */
  readonly materialSeconds: Seconds;
  readonly songs: readonly ArrangedSong[];
  readonly pieces: readonly MusicPiece[];
  readonly grid: Grid;
  readonly phrases: readonly number[];
  readonly sections: readonly FilmSection[];
  readonly accents: readonly FilmAccent[];
  readonly markers: readonly (Marker & { readonly songId: string })[];
  /** Where a person wants the last fade to begin; null: by rule. */
  readonly fadeOutSeconds: Seconds | null;
}

/** The moment of the film at a moment of a piece's song. */
export const filmSecondsAt = (time: readonly TimePoint[], songSeconds: Seconds): number =>
  piecewiseLinear(
    time,
    (point) => point.soundSeconds,
    (point) => point.filmSeconds,
    songSeconds,
  );

import type { SongPlace } from "../show/index.ts";
import { soundSecondsAt } from "../sound/index.ts";
import type { Seconds } from "../time/index.ts";
import { type ArrangedMusic, filmSecondsAt, type MusicPiece } from "./arranged-music.ts";

/** Slack for moments at the very edge of a piece. */
const EDGE_SECONDS = 0.02;

/**
 * Where a place of the music stands in the film; null where that song, or that second of it, is not
 * played. A turn that there is no more is the last one.
 */
export function filmSecondsOf(music: ArrangedMusic, { songId, seconds, turn }: SongPlace): number | null {
  const heard = piecesOf(music, songId).filter((piece) => holds(piece, seconds));
  const piece = heard[Math.min(turn, heard.length - 1)];
  return piece ? filmSecondsAt(piece.time, seconds) : null;
}

/** The place of the music at a moment of the film; null where none plays. */
export function songPlaceAt(music: ArrangedMusic, filmSeconds: Seconds): SongPlace | null {
  const piece =
    music.pieces.findLast((other) => filmSeconds >= other.startSeconds && filmSeconds < other.endSeconds) ??
    music.pieces.findLast((other) => filmSeconds >= other.startSeconds);
  if (!piece) return null;
  const seconds = Math.max(0, soundSecondsAt(piece.time, filmSeconds));
  const earlier = piecesOf(music, piece.songId);
  const turn = earlier.slice(0, earlier.indexOf(piece)).filter((other) => holds(other, seconds)).length;
  return { songId: piece.songId, seconds, turn };
}

const piecesOf = (music: ArrangedMusic, songId: string): MusicPiece[] =>
  music.pieces.filter((piece) => piece.songId === songId);

/** Whether a second of the song is played by the piece where its own material counts. */
function holds(piece: MusicPiece, songSeconds: Seconds): boolean {
  const film = filmSecondsAt(piece.time, songSeconds);
  return film >= piece.startSeconds - EDGE_SECONDS && film < piece.endSeconds - EDGE_SECONDS / 2;
}

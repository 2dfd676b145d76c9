import type { FilmPlan } from "@humming-tide/core/film";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import { type ShowDocument, slideName, takeOf, voiceName } from "@humming-tide/core/show";
import { decibelsAt, type SoundPiece } from "@humming-tide/core/sound";
import { type ScoreLayout, spansBetween, timeAt } from "../layout/score-layout.ts";
import { originOf, voicePiece } from "./voice-piece.ts";

/** A voice or a clip's sound, or the part of it that lies in a row. */
export interface SoundBlock {
  readonly kind: "voice" | "clip";
  /** Of the voice, or of the slide. */
  readonly id: string;
  readonly name: string;
  readonly sha256: string;
  /** Shares of the row's width. */
  readonly from: number;
  readonly to: number;
  /** Of the film. */
  readonly startSeconds: number;
  readonly endSeconds: number;
  /** Seconds of the recording at its beginning in this row, and at its end. */
  readonly soundFrom: number;
  readonly soundTo: number;
  /** Whether it begins in this row. */
  readonly first: boolean;
  readonly muted: boolean;
}

/** A point of the music's level under a voice that is drawn by hand. */
export interface LevelHandle {
  readonly voiceId: string;
  readonly index: number;
  readonly share: number;
  readonly decibels: number;
  readonly filmSeconds: number;
}

/** What is heard in a row beside its songs, and how they make room. */
export interface RowSound {
  /** The music's level at even steps of the row's width, in decibels, 0 and less. */
  readonly level: readonly number[];
  readonly blocks: readonly SoundBlock[];
  readonly handles: readonly LevelHandle[];
}

export const NO_SOUND: RowSound = { level: [], blocks: [], handles: [] };

const LEVEL_STEPS = 160;

/** Every row's sound. O(rows * steps + pieces). */
export function soundOfRows(plan: FilmPlan, layout: ScoreLayout, show: ShowDocument): readonly RowSound[] {
  const rows = layout.rows.map((row) => ({
    level:
      plan.ducking.length === 0
        ? []
        : Array.from({ length: LEVEL_STEPS + 1 }, (_, i) =>
            Number(decibelsAt(plan.ducking, timeAt(layout, row.index, i / LEVEL_STEPS)).toFixed(2)),
          ),
    blocks: [] as SoundBlock[],
    handles: [] as LevelHandle[],
  }));
  const names = new Map<string, { name: string; sha256: string }>([
    ...show.voices.map(
      (voice) => [`voice ${voice.id}`, { name: voiceName(voice), sha256: takeOf(voice).sha256 }] as const,
    ),
    ...show.slides.flatMap((slide) =>
      slide.sha256 === null ? [] : [[`clip ${slide.id}`, { name: slideName(slide), sha256: slide.sha256 }] as const],
    ),
  ]);
  for (const piece of [...plan.sound.pieces, ...mutedVoices(plan)]) {
    const { kind, id } = piece.owner;
    const muted = !plan.sound.pieces.some(({ owner }) => owner.kind === kind && owner.id === id);
    const known = names.get(`${kind} ${id}`);
    if (kind === "song" || !known) continue;
    const [start, end] = [itemAt(piece.time, 0), lastOf(piece.time)];
    const soundAt = (filmSeconds: number): number =>
      start.soundSeconds +
      ((filmSeconds - start.filmSeconds) * (end.soundSeconds - start.soundSeconds)) /
        (end.filmSeconds - start.filmSeconds);
    spansBetween(layout, start.filmSeconds, end.filmSeconds).forEach((span, i) => {
      const clamped = (share: number): number =>
        Math.max(start.filmSeconds, Math.min(end.filmSeconds, timeAt(layout, span.row, share)));
      rows[span.row]?.blocks.push({
        kind,
        id,
        ...known,
        from: span.from,
        to: span.to,
        startSeconds: start.filmSeconds,
        endSeconds: end.filmSeconds,
        soundFrom: soundAt(clamped(span.from)),
        soundTo: soundAt(clamped(span.to)),
        first: i === 0,
        muted,
      });
    });
  }
  for (const voice of show.voices) {
    const piece = voicePiece(plan, voice.id);
    if (!piece) continue;
    const origin = originOf(piece);
    voice.musicLevel.forEach(({ seconds, decibels }, index) => {
      const filmSeconds = origin + seconds;
      const [span] = spansBetween(layout, filmSeconds, filmSeconds + 1e-3);
      if (span && filmSeconds >= 0 && filmSeconds <= plan.sound.lengthSeconds)
        rows[span.row]?.handles.push({ voiceId: voice.id, index, share: span.from, decibels, filmSeconds });
    });
  }
  return rows;
}

/** Muted voices are not in the film's sound, but keep their place on the Score. */
const mutedVoices = (plan: FilmPlan): Pick<SoundPiece, "owner" | "time">[] =>
  plan.mutedVoices.map(({ voiceId, time }) => ({ owner: { kind: "voice", id: voiceId }, time }));

const signatures = new WeakMap<RowSound, string>();

/** Equal exactly if rows sound alike. */
export function soundSignature(sound: RowSound): string {
  const known = signatures.get(sound) ?? JSON.stringify(sound);
  signatures.set(sound, known);
  return known;
}

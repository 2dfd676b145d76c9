import { sectionNames } from "@humming-tide/core/arrange";
import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { itemAt } from "@humming-tide/core/presence";
import { frameStart, type Seconds } from "@humming-tide/core/time";

/** Two films lie side by side in rows of the same time. */
export const ROW_SECONDS = 16;

/** A slot, or the part of one that lies in a row; places are shares of the row, 0 to 1. */
export interface FilmPiece {
  readonly slot: FilmSlot;
  readonly from: number;
  readonly to: number;
  /** Whether the slot begins here, and not in the row before. */
  readonly isFirst: boolean;
}

export interface FilmRow {
  readonly startSeconds: Seconds;
  readonly pieces: readonly FilmPiece[];
  /** Sections that begin in the row. */
  readonly sections: readonly { readonly at: number; readonly name: string }[];
}

/** So many rows as both films need. */
export const rowCount = (films: readonly FilmPlan[]): number =>
  Math.max(0, ...films.map((film) => Math.ceil(lengthOf(film) / ROW_SECONDS)));

export const lengthOf = ({ totalFrames, rate }: FilmPlan): Seconds => frameStart(totalFrames, rate);

/** A film in rows of the same time; rows behind its end are empty. O(slots + rows). */
export function filmRows(film: FilmPlan, rows: number): FilmRow[] {
  const made = Array.from({ length: rows }, (_, row) => ({
    startSeconds: row * ROW_SECONDS,
    pieces: [] as FilmPiece[],
    sections: [] as { at: number; name: string }[],
  }));
  for (const slot of film.slots) {
    const [from, to] = [slot.startFrame, slot.endFrame].map((frame) => frameStart(frame, film.rate) / ROW_SECONDS);
    if (from === undefined || to === undefined) continue;
    for (let row = Math.floor(from); row < to && row < rows; row++) {
      const piece = {
        slot,
        from: Math.max(0, from - row),
        to: Math.min(1, to - row),
        isFirst: row === Math.floor(from),
      };
      made[row]?.pieces.push(piece);
    }
  }
  const names = sectionNames(film.music.sections);
  for (const [index, { startSeconds }] of film.music.sections.entries()) {
    const place = startSeconds / ROW_SECONDS;
    made[Math.floor(place)]?.sections.push({ at: place % 1, name: itemAt(names, index) });
  }
  return made;
}

/** Slides that one film shows and the other does not. */
export function shownOnlyIn(film: FilmPlan, other: FilmPlan): ReadonlySet<string> {
  const others = new Set(other.slots.map(({ slideId }) => slideId));
  return new Set(film.slots.map(({ slideId }) => slideId).filter((id) => !others.has(id)));
}

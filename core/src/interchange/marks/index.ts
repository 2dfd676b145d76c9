import type { HummingTideError } from "../../errors/index.ts";
import { MARKER_KINDS, type MarkerKind } from "../../show/index.ts";
import type { Seconds } from "../../time/index.ts";
import { interchangeError } from "../interchange-errors.ts";

/** A beat as a file holds it. */
export interface BeatMark {
  readonly seconds: Seconds;
  /** Place in the bar: 1 starts a bar, 0 is unknown. */
  readonly position: number;
}

/** A named instant as a file holds it. */
export interface MarkerMark {
  readonly seconds: Seconds;
  readonly name: string;
  /** Null where the file does not say. */
  readonly kind: MarkerKind | null;
}

/** Beats and markers of a song, in rising order each, as they go in and out of files. */
export interface Marks {
  readonly beats: readonly BeatMark[];
  readonly markers: readonly MarkerMark[];
}

/** A day; longer than any song, and short enough that a number in another unit is noticed. */
const LONGEST_SECONDS = 86_400;

/** A time read from a file. Throws `marks-unreadable` with the place. */
export function readSeconds(text: string, place: string): Seconds {
  const seconds = text.trim() === "" ? Number.NaN : Number(text);
  if (!Number.isFinite(seconds) || seconds < 0 || seconds > LONGEST_SECONDS) {
    throw unreadable(
      place,
      `a time is a number of seconds from 0 to ${LONGEST_SECONDS}, but "${text.slice(0, 40)}" is not.`,
    );
  }
  return seconds;
}

/** The error of a file of marks that cannot be read; `place` is a line or a byte. */
export const unreadable = (place: string, why: string): HummingTideError =>
  interchangeError("marks-unreadable", { place, why });

/** In rising order of time; of equal times the earlier in the file first. */
export function byTime<Mark extends { readonly seconds: Seconds }>(marks: readonly Mark[]): Mark[] {
  return [...marks].sort((a, b) => a.seconds - b.seconds);
}

/** The kind that a word in a file names, whatever its case; null where it names none. */
export function markerKind(word: string): MarkerKind | null {
  return MARKER_KINDS.find((kind) => kind === word.trim().toLowerCase()) ?? null;
}

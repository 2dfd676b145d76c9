import { type PictureTrack, type PlannedMove, parseDrawnPicture, type Size } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import { LARGE_PIXELS, WORKING_PIXELS } from "./picture-files.ts";

/** Drawn so much larger than it is, a picture is still sharp to the eye. Common practice. */
const FORGIVEN_ENLARGEMENT = 1.05;
/**
 * Originals of these kinds have every colour as it was made; a working copy rounds it once more.
 */
const LOSSLESS = new Set(["image/png", "image/tiff", "image/bmp", "image/gif"]);

/** A copy of a picture that a film is drawn from instead of its working copy. */
export interface FilmCopy {
  /** Of the derived files: its name says what it is a copy of. */
  readonly folder: string;
  readonly pixels: number;
  readonly isLossless: boolean;
}

/** The file in a copy's folder; what kind it is, it says itself. */
export const COPY_FILE = "copy";

interface Original extends Size {
  readonly mime: string;
}

/**
 * What a film is drawn from where working copies would not do, by the name that pictures are drawn
 * by: pictures whose originals are lossless, and pictures that are drawn larger than those and
 * whose originals have more to show: films in 4K, upright ones of wide photographs. `originalOf`
 * gives the facts of an original, upright.
 */
export function filmCopies(
  track: PictureTrack,
  originalOf: (sha256: string) => Original | undefined,
): Map<string, FilmCopy> {
  const copies = new Map<string, FilmCopy>();
  const look = (picture: string, { start, end }: PlannedMove): void => {
    const original = originalOf(present(parseDrawnPicture(picture)).sha256);
    if (!original) return;
    const isLossless = LOSSLESS.has(original.mime);
    const drawn = Math.max(start.width, start.height, end.width, end.height);
    if (Math.max(original.width, original.height) > WORKING_PIXELS && drawn > WORKING_PIXELS * FORGIVEN_ENLARGEMENT)
      copies.set(picture, { folder: `${picture}-large`, pixels: LARGE_PIXELS, isLossless });
    else if (isLossless && !copies.has(picture))
      copies.set(picture, { folder: `${picture}-exact`, pixels: WORKING_PIXELS, isLossless });
  };
  for (const slot of track.slots) {
    if (slot.picture !== null && !slot.clip) look(slot.picture, slot.move);
    for (const { picture, move } of slot.beside) look(picture, move);
  }
  return copies;
}

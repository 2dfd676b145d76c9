import type { Chapter, FilmPlan } from "../film/index.ts";
import type { PictureSlot, PictureTrack, Size, WordPiece, WordSheet } from "../picture/index.ts";
import { itemAt } from "../presence/index.ts";
import type { FrameRate, Frames } from "../time/index.ts";

/**
 * Of the file that a player's page reads; a page knows one version only, that of the program that
 * packed both.
 */
export const PLAYER_FILM_VERSION = 1;

/**
 * A film for a page that has nothing but a folder beside it: what planFrame needs of it, and the
 * files that it is drawn from.
 */
export interface PlayerFilm {
  readonly version: typeof PLAYER_FILM_VERSION;
  readonly title: string;
  readonly rate: FrameRate;
  readonly totalFrames: Frames;
  readonly track: PictureTrack;
  /** Empty: the film is one. */
  readonly chapters: readonly Chapter[];
  /** It begins again by itself. */
  readonly loops: boolean;
  readonly images: readonly PlayerImage[];
  readonly words: readonly PlayerWords[];
  readonly clips: readonly PlayerClip[];
  readonly sound: string;
}

/** A file of the folder, with its size in pixels. */
interface ImageFile extends Size {
  readonly file: string;
}

/** An image of the film as it is drawn, with its look. */
export interface PlayerImage extends ImageFile {
  /** core/picture, `imageKey`. */
  readonly key: string;
}

/** The words of a sheet, each drawn: a page needs no fonts. */
export interface PlayerWords {
  readonly sheet: WordSheet;
  readonly drawn: readonly {
    readonly height: number;
    readonly pieces: readonly (ImageFile & Omit<WordPiece<unknown>, "image">)[];
  }[];
}

/**
 * The clip of a slot, a frame of it for each of the film in which it is seen, turned, slowed and
 * with its look.
 */
export interface PlayerClip extends ImageFile {
  readonly slotIndex: number;
  /** Of the film: that of the file's first. */
  readonly startFrame: Frames;
  /** Exclusive. */
  readonly endFrame: Frames;
}

/**
 * Of a plan, only what pictures are drawn from: what else a plan knows (songs, wishes, names of
 * files) does not leave the house.
 */
export const pictureTrack = ({ size, slots, fadeOut, watermark, loopBack }: FilmPlan): PictureTrack => ({
  size,
  slots: slots.map(pictureSlot),
  fadeOut,
  watermark,
  loopBack: loopBack && pictureSlot(loopBack),
});

const pictureSlot = (slot: PictureSlot): PictureSlot => ({
  picture: slot.picture,
  look: slot.look,
  cell: slot.cell,
  beside: slot.beside,
  border: slot.border,
  overlay: slot.overlay,
  graphic: slot.graphic,
  clip: slot.clip,
  startFrame: slot.startFrame,
  endFrame: slot.endFrame,
  transitionIn: slot.transitionIn,
  move: slot.move,
  ground: slot.ground,
  words: slot.words,
  subject: slot.subject,
});

/** The film's frames in which a slot is seen, also while it comes and goes; the end exclusive. */
export function seenFrames(
  { slots, loopBack }: Pick<PictureTrack, "slots" | "loopBack">,
  index: number,
): { readonly startFrame: Frames; readonly endFrame: Frames } {
  const slot = itemAt(slots, index);
  const next = slots[index + 1] ?? loopBack;
  return {
    startFrame: Math.min(slot.startFrame, slot.transitionIn.startFrame),
    endFrame: Math.max(slot.endFrame, next?.transitionIn.endFrame ?? slot.endFrame),
  };
}

/** The sheets of a film, each text once, in order of appearance. */
export function sheetsOf({ slots, watermark, loopBack }: PictureTrack): WordSheet[] {
  const sheets = [
    ...slots.map(({ words }) => words.sheet),
    ...(loopBack ? [loopBack.words.sheet] : []),
    ...(watermark ? [watermark.sheet] : []),
  ].filter((sheet) => sheet.length > 0);
  return [...new Map(sheets.map((sheet) => [JSON.stringify(sheet), sheet])).values()];
}

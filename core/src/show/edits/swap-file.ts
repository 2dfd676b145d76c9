import {
  type FormerFile,
  hasPicture,
  MOST_FORMER_FILES,
  type PictureSlide,
  type ShowDocument,
  type Slide,
} from "../document/index.ts";

/** A file that is to stand on a slide. */
export type SwappedFile = Pick<PictureSlide, "sha256" | "fileName">;

/**
 * Puts other files in the place of those on slides: one edit, whatever their number.
 *
 * What was decided about a slide stays: its place, locks, length, rating, caption, words, style and
 * sound. What was decided about the old file (turn, subject, framing, part of a clip) goes with it
 * among the slide's former files. A file that is put back brings it along again.
 *
 * @param files By the ids of slides. Unknown ids, cards, and files that are there already change
 *   nothing.
 * @returns The same document where nothing changed. O(slides).
 * @example `swapFiles(show, new Map([["s7", { sha256, fileName: "quay-edit.jpg" }]]))`
 */
export function swapFiles(show: ShowDocument, files: ReadonlyMap<string, SwappedFile>): ShowDocument {
  let changed = false;
  const slides = show.slides.map((slide) => {
    const file = files.get(slide.id);
    if (!file || !hasPicture(slide) || file.sha256 === slide.sha256) return slide;
    changed = true;
    return withFile(slide, slide.formerFiles.find(({ sha256 }) => sha256 === file.sha256) ?? unseen(file));
  });
  return changed ? { ...show, slides } : show;
}

/**
 * Two slides exchange their files, each with what was decided about it: a picture that waits takes
 * the place of one in the film, which then waits instead. Nothing changes where one of them is a
 * card, is not there, or is the other.
 */
export function exchangeFiles(show: ShowDocument, oneId: string, otherId: string): ShowDocument {
  const one = show.slides.find(({ id }) => id === oneId);
  const other = show.slides.find(({ id }) => id === otherId);
  if (!one || !other || one === other || !hasPicture(one) || !hasPicture(other)) return show;
  const slides = show.slides.map((slide) => {
    if (slide === one) return { ...one, ...fileOf(other) };
    return slide === other ? { ...other, ...fileOf(one) } : slide;
  });
  return { ...show, slides };
}

/** A file about which nothing is decided yet. */
const unseen = ({ sha256, fileName }: SwappedFile): FormerFile => ({
  sha256,
  fileName,
  turn: 0,
  subject: null,
  views: [],
  clip: null,
});

/** The file of a slide, with what was decided about it. */
const fileOf = ({ sha256, fileName, turn, subject, views, clip }: PictureSlide): FormerFile => ({
  sha256,
  fileName,
  turn,
  subject,
  views,
  clip,
});

function withFile(slide: PictureSlide, file: FormerFile): Slide {
  const others = slide.formerFiles.filter(({ sha256 }) => sha256 !== file.sha256);
  return { ...slide, ...file, formerFiles: [fileOf(slide), ...others].slice(0, MOST_FORMER_FILES) };
}

import { hasPicture, type ShowDocument } from "../document/index.ts";
import type { SwappedFile } from "./swap-file.ts";

/** A file that may be a later state of one in the show. */
export interface OfferedFile extends SwappedFile {
  /** When it was taken, by its camera: "2031-06-21T19:04:11.250"; null where it does not say. */
  readonly capturedAt: string | null;
}

export interface RetouchedFile {
  readonly slideId: string;
  /** Of the file that it takes the place of. */
  readonly formerName: string;
  readonly file: SwappedFile;
  readonly by: "name" | "time";
}

export interface RetouchedFiles {
  /** In the order of the show. */
  readonly matched: readonly RetouchedFile[];
  /** Files for which no slide was found, or more than one, in the order given. */
  readonly unmatched: readonly SwappedFile[];
  /** How many files are the very ones that the show has. */
  readonly unchanged: number;
}

/**
 * What programs put behind the name of a file that they saved again: "-edit", "_retouched", " (2)".
 * Common practice.
 */
const ADDED_TO_NAME = /^[\s_.\-(]/;

/**
 * Finds the slides that a folder of retouched files belongs to: by name (folders, ending and case
 * do not count, and a name may go on with an addition: "IMG_7" finds "IMG_7-edit.tif"), else by the
 * moment of capture. Only what fits one slide alone is taken, and each slide takes one file: the
 * one whose name is nearest, of several the first.
 *
 * @param capturedAtOf When the file of a slide was taken; null where that is not known.
 * Cost: O(slides * files).
 */
export function retouchedFiles(
  show: ShowDocument,
  files: readonly OfferedFile[],
  capturedAtOf: (sha256: string) => string | null,
): RetouchedFiles {
  const slides = show.slides.filter(hasPicture).map(({ id, sha256, fileName }) => ({
    id,
    sha256,
    fileName,
    stem: stemOf(fileName),
    capturedAt: capturedAtOf(sha256),
  }));
  const there = new Set(slides.map(({ sha256 }) => sha256));
  const news = files.filter(({ sha256 }) => !there.has(sha256));
  const taken = new Map<string, RetouchedFile>();
  const open = new Set(news);
  const take = (
    by: RetouchedFile["by"],
    fits: (slide: (typeof slides)[number], file: OfferedFile) => boolean,
  ): void => {
    for (const file of news) {
      if (!open.has(file)) continue;
      const found = slides.filter((slide) => !taken.has(slide.id) && fits(slide, file));
      // Two cameras that count alike: the moment tells them apart.
      const sure =
        found.length > 1
          ? found.filter(({ capturedAt }) => capturedAt !== null && capturedAt === file.capturedAt)
          : found;
      if (sure.length !== 1) continue;
      const [{ id, fileName }] = sure as [(typeof slides)[number]];
      taken.set(id, { slideId: id, formerName: fileName, file: { sha256: file.sha256, fileName: file.fileName }, by });
      open.delete(file);
    }
  };
  take("name", (slide, file) => slide.stem === stemOf(file.fileName));
  take("name", (slide, file) => isAddition(slide.stem, stemOf(file.fileName)));
  take("time", (slide, file) => file.capturedAt !== null && slide.capturedAt === file.capturedAt);
  return {
    matched: slides.flatMap(({ id }) => taken.get(id) ?? []),
    unmatched: news.filter((file) => open.has(file)).map(({ sha256, fileName }) => ({ sha256, fileName })),
    unchanged: files.length - news.length,
  };
}

/** A file's name without its folders and its ending, in lower case. */
const stemOf = (fileName: string): string =>
  fileName
    .replace(/^.*[/\\]/, "")
    .replace(/\.[^.]*$/, "")
    .toLowerCase();

const isAddition = (stem: string, longer: string): boolean =>
  stem !== "" && longer.startsWith(stem) && ADDED_TO_NAME.test(longer.slice(stem.length));

import type { Readable } from "node:stream";
import { HummingTideError } from "@humming-tide/core";
import { mediaNames } from "@humming-tide/core/interchange";
import { namedPictures, namedTakes, type ShowDocument } from "@humming-tide/core/show";
import { safeFileName } from "../file-names.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { packageError } from "../package/package-errors.ts";
import { openZip } from "../zip-stream.ts";
import { FILM_FILES, type FilmFile, type FilmFileFormat } from "./film-files.ts";

const MEDIA_FOLDER = "media/";
/** A film that a format cannot hold goes without that file. */
const CANNOT_HOLD: ReadonlySet<string> = new Set(["no-chapters", "edit-list-rate", "edit-list-long"]);

export interface TimelineFolder {
  /** "Closing night, for other tools.zip". */
  readonly name: string;
  readonly content: Readable;
}

/**
 * One zip with everything that another program goes on with: the files of FILM_FILES, and beside
 * them in "media" each picture, clip, song and voice under the name that the timeline gives it.
 * Streamed: nothing is copied first. Throws what planning throws, and `media-missing` before a byte
 * is written.
 */
export async function timelineFolder(
  document: ShowDocument,
  planner: FilmPlanner,
  library: MediaLibrary,
): Promise<TimelineFolder> {
  const title = safeFileName(document.title, "Film");
  const media = await mediaOf(document, library);
  const files: FilmFile[] = [];
  for (const format of Object.keys(FILM_FILES) as FilmFileFormat[]) {
    const file = await planner.filmFile(document, format, MEDIA_FOLDER).catch((error: unknown) => {
      if (error instanceof HummingTideError && CANNOT_HOLD.has(error.code)) return null;
      throw error;
    });
    if (file) files.push(file);
  }
  // Nothing is opened before all is planned.
  const { zip, content } = openZip();
  for (const file of files) zip.addBuffer(Buffer.from(file.bytes), `${title}/${file.name}`);
  for (const { sha256, name } of media)
    zip.addFile(library.store.originalPath(sha256), `${title}/${MEDIA_FOLDER}${name}`, { compress: false });
  zip.end();
  return { name: `${title}, for other tools.zip`, content };
}

/** The files of all slides but those that a person left out, of songs and of voices. */
async function mediaOf(
  document: ShowDocument,
  library: MediaLibrary,
): Promise<readonly { readonly sha256: string; readonly name: string }[]> {
  const slides = document.slides.filter(({ rating }) => rating !== "out");
  const used = [...namedPictures({ slides }), ...document.songs, ...namedTakes(document)].map(({ sha256 }) => sha256);
  const names = mediaNames(document);
  const files = [...new Set(used)].map((sha256) => ({ sha256, name: names.get(sha256) ?? sha256 }));
  for (const { sha256, name } of files)
    if (!(await library.store.has(library.store.originalPath(sha256))))
      throw packageError("media-missing", { fileName: name });
  return files;
}

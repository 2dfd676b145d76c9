import { chaptersOf, type FilmPlan } from "@humming-tide/core/film";
import {
  timelineOf,
  writeEditList,
  writeMarksMidi,
  writeOtio,
  writeSlotTable,
  writeWebVtt,
} from "@humming-tide/core/interchange";
import type { ShowDocument } from "@humming-tide/core/show";
import { framesPerSecond } from "@humming-tide/core/time";
import type { DataFolder } from "../data-folder.ts";
import { safeFileName } from "../file-names.ts";
import { ContentStore } from "../media/content-store.ts";
import { PICTURE_FILES } from "../media/picture-files.ts";
import { outputError } from "../outputs/output-errors.ts";
import { cueSheet } from "./cue-sheet.ts";

/** Files that other programs and people go on with, by the ending of their name. */
export const FILM_FILES = {
  otio: { mime: "application/json", what: "timeline" },
  edl: { mime: "text/plain; charset=utf-8", what: "edit list" },
  csv: { mime: "text/csv; charset=utf-8", what: "slots" },
  vtt: { mime: "text/vtt; charset=utf-8", what: "chapters" },
  mid: { mime: "audio/midi", what: "grid" },
  pdf: { mime: "application/pdf", what: "cue sheet" },
} as const;
export type FilmFileFormat = keyof typeof FILM_FILES;

export const isFilmFileFormat = (text: string): text is FilmFileFormat => Object.hasOwn(FILM_FILES, text);

export interface FilmFile {
  /** "Closing night, cue sheet.pdf". */
  readonly name: string;
  readonly mime: string;
  readonly bytes: Uint8Array;
}

/**
 * One of the files of a show's film as it is laid; pictures are read from the data folder.
 * `mediaFolder` is where another program finds the media, seen from the file; "": beside it. Throws
 * what the writer throws.
 */
export async function filmFile(
  show: ShowDocument,
  plan: FilmPlan,
  format: FilmFileFormat,
  folder: DataFolder,
  mediaFolder: string,
): Promise<FilmFile> {
  const { mime, what } = FILM_FILES[format];
  const name = `${safeFileName(show.title, "Film")}, ${what}.${format}`;
  return { name, mime, bytes: await bytesOf(new ContentStore(folder), show, plan, format, mediaFolder) };
}

async function bytesOf(
  store: ContentStore,
  show: ShowDocument,
  plan: FilmPlan,
  format: FilmFileFormat,
  mediaFolder: string,
): Promise<Uint8Array> {
  const encode = (text: string): Uint8Array => new TextEncoder().encode(text);
  switch (format) {
    case "otio":
      return encode(writeOtio(timelineOf(show, plan, mediaFolder)));
    case "edl":
      return encode(writeEditList(timelineOf(show, plan)));
    case "csv":
      return encode(writeSlotTable(timelineOf(show, plan)));
    case "vtt":
      return encode(chapterCues(show, plan));
    case "mid": {
      const { beats } = plan.music.grid;
      return writeMarksMidi({ beats, markers: plan.music.markers }, plan.sound.lengthSeconds);
    }
    case "pdf":
      return cueSheet(show, plan, { thumbnailOf: (picture) => store.derivedPath(picture, PICTURE_FILES.thumbnail) });
  }
}

/** A cue a passage. Throws `no-chapters` for a show that is not divided. */
function chapterCues(show: ShowDocument, plan: FilmPlan): string {
  const chapters = chaptersOf(show, plan);
  if (chapters.length === 0) throw outputError("no-chapters");
  const fps = framesPerSecond(plan.rate);
  return writeWebVtt(
    chapters.map(({ title, startFrame }) => ({ seconds: startFrame / fps, name: title, kind: "section" })),
    plan.totalFrames / fps,
  );
}

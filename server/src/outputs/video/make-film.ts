import { randomUUID } from "node:crypto";
import { rename, rm, stat } from "node:fs/promises";
import path from "node:path";
import type { FilmMeasurement } from "@humming-tide/contract";
import type { Chapter, FilmPlan } from "@humming-tide/core/film";
import { type FilmReport, filmReport } from "@humming-tide/core/interchange";
import type { ContentStore } from "../../media/content-store.ts";
import { drawnFile } from "../../media/drawn-file.ts";
import { SONG_FILES } from "../../media/song-intake.ts";
import { asStorageError } from "../../storage-errors.ts";
import type { OutputProgress } from "../output-writer.ts";
import { ClipFrames } from "./clip-frames.ts";
import { encodeFilm } from "./encode-film.ts";
import { FilmParts } from "./film-parts.ts";
import { extensionOf, type FileForm } from "./formats/index.ts";
import { verifyFilm } from "./verify-film.ts";
import { writePoster } from "./write-poster.ts";

export interface MakeFilmRequest {
  readonly plan: FilmPlan;
  readonly store: ContentStore;
  readonly title: string;
  readonly form: FileForm;
  readonly chapters?: readonly Chapter[];
  /** Name of the picture that stands for the film, as it is drawn; null for none. */
  readonly poster?: string | null;
  /** Of MediaLibrary.prepareFilm. */
  readonly copies: ReadonlyMap<string, string>;
  readonly filmPath: string;
  /**
   * Where the film's parts are kept until it is whole: what lies there of the same film from before
   * a crash is used.
   */
  readonly partsFolder: string;
  /** What the report names as a song. */
  readonly songPathOf: (songSha256: string) => string;
  readonly signal: AbortSignal;
  readonly onProgress: (progress: OutputProgress) => void;
}

export interface MadeFilm {
  readonly report: FilmReport;
  readonly bytes: number;
}

/** Drawing and encoding take about nine tenths of the time, measuring the rest. */
const ENCODING_SHARE = 0.9;

/**
 * Makes a film beside its final name and moves it there when it is whole. Whatever goes wrong
 * leaves no half film behind, and none of its parts; a process that dies leaves the parts, for the
 * next try.
 */
export async function makeFilm(request: MakeFilmRequest): Promise<MadeFilm> {
  const { plan, store, form, filmPath, signal, onProgress } = request;
  const unfinished = path.join(path.dirname(filmPath), `.unfinished-${randomUUID()}.${extensionOf(form.container)}`);
  const clips = new ClipFrames((sha256) => store.originalPath(sha256));
  const parts = await FilmParts.open(request.partsFolder, plan, form);
  onProgress({ step: "Mixing the sound", progress: 0 });
  try {
    const drawnShares = await encodeFilm({
      plan,
      form,
      chapters: request.chapters ?? [],
      posterPath: await posterOf(request, parts.folder),
      flacPathOf: (soundName) => store.derivedPath(soundName, SONG_FILES.sound),
      pathOfImage: (picture, of) => drawnFile(store, picture, of, request.copies),
      clips,
      parts,
      filmPath: unfinished,
      title: request.title,
      signal,
      onFrame: (done) =>
        onProgress({ step: "Drawing and encoding", progress: (ENCODING_SHARE * done) / plan.totalFrames }),
    });
    await rename(unfinished, filmPath);
    return { report: filmReport(plan, request.songPathOf, drawnShares), bytes: (await stat(filmPath)).size };
  } catch (error) {
    throw asStorageError(error, "the film could not be written");
  } finally {
    clips.close();
    await rm(unfinished, { force: true });
    await parts.remove();
  }
}

/**
 * Null where there is none. One that cannot be read (it need not be in the film) is no reason to
 * lose the film.
 */
const posterOf = async ({ poster, store }: MakeFilmRequest, folder: string): Promise<string | null> =>
  poster ? writePoster(drawnFile(store, poster, "picture"), folder).catch(() => null) : null;

/** Decodes a film that was just made and measures it against its own report. */
export async function measureFilm(request: MakeFilmRequest, made: MadeFilm): Promise<FilmMeasurement> {
  const songPathOf = (sha256: string): string => request.store.derivedPath(sha256, SONG_FILES.sound);
  return verifyFilm(request.filmPath, made.report, songPathOf, (share) =>
    request.onProgress({ step: "Measuring the film", progress: ENCODING_SHARE + (1 - ENCODING_SHARE) * share }),
  );
}

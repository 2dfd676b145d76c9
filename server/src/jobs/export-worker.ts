import { parentPort, workerData } from "node:worker_threads";
import type { FilmMeasurement } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { chaptersOf, factsOf, planOutput } from "@humming-tide/core/film";
import { drawnPicture } from "@humming-tide/core/picture";
import { type FilmOutput, isVideo, posterSlide, type ShowDocument } from "@humming-tide/core/show";
import type { DataFolder } from "../data-folder.ts";
import { type FilmProgress, makeFilm, measureFilm } from "../export/make-film.ts";
import { writePlayer } from "../hand-over/web-player/write-player.ts";
import { ContentStore } from "../media/content-store.ts";
import { readFacts, type StoredFacts } from "../media/stored-facts.ts";

export interface ExportTask {
  readonly folder: DataFolder;
  readonly document: ShowDocument;
  readonly output: FilmOutput;
  readonly facts: StoredFacts;
  /** Of MediaLibrary.prepareFilm. */
  readonly copies: ReadonlyMap<string, string>;
  readonly filmPath: string;
  readonly partsFolder: string;
}

/** What is known of a film that is one file: its plan as text, and what was measured in it. A player has none: its page draws it. */
export interface FilmFacts {
  readonly report: string;
  readonly measurement: FilmMeasurement;
}

export type ExportMessage =
  | ({ readonly kind: "progress" } & FilmProgress)
  | { readonly kind: "done"; readonly bytes: number; readonly film: FilmFacts | null }
  | { readonly kind: "failed"; readonly code: string; readonly message: string };

const task = workerData as ExportTask;
const port = parentPort!;
const say = (message: ExportMessage): void => port.postMessage(message);
const cancel = new AbortController();
port.once("message", () => cancel.abort(new HummingTideError("cancelled", "The export was cancelled.")));

try {
  const { document, output } = task;
  const plan = planOutput(document, output, factsOf(readFacts(task.facts)));
  const common = {
    plan,
    store: new ContentStore(task.folder),
    title: document.title,
    chapters: chaptersOf(document, plan),
    copies: task.copies,
    signal: cancel.signal,
    onProgress: (progress: FilmProgress) => say({ kind: "progress", ...progress }),
  };
  const { container } = output;
  if (isVideo(container)) {
    const poster = posterSlide(document);
    const request = {
      ...common,
      form: { container, quality: output.quality },
      poster: poster ? drawnPicture(poster.sha256, poster.turn) : null,
      filmPath: task.filmPath,
      partsFolder: task.partsFolder,
      songPathOf: (sha256: string) => document.songs.find((song) => song.sha256 === sha256)?.fileName ?? sha256,
    };
    const { report, bytes } = await makeFilm(request);
    const measurement = await measureFilm(request, { report, bytes });
    say({ kind: "done", bytes, film: { report: JSON.stringify(report, null, 1), measurement } });
  } else {
    say({ kind: "done", bytes: await writePlayer({ ...common, output, place: task.filmPath }), film: null });
  }
} catch (error) {
  const known = error instanceof HummingTideError;
  say({
    kind: "failed",
    code: known ? error.code : "export-failed",
    message: known
      ? error.message
      : `The export failed: ${(error as Error).message}. The show is unharmed; export again.`,
  });
}
port.close();

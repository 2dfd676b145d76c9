import { parentPort, workerData } from "node:worker_threads";
import type { FilmMeasurement } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { chaptersOf, factsOf, type PlainFacts, planOutput } from "@humming-tide/core/film";
import { drawnPicture } from "@humming-tide/core/picture";
import { type FilmOutput, posterSlide, type ShowDocument } from "@humming-tide/core/show";
import type { DataFolder } from "../data-folder.ts";
import { type FilmProgress, makeFilm, measureFilm } from "../export/make-film.ts";
import { ContentStore } from "../media/content-store.ts";

export interface ExportTask {
  readonly folder: DataFolder;
  readonly document: ShowDocument;
  readonly output: FilmOutput;
  readonly facts: PlainFacts;
  /** Of MediaLibrary.prepareFilm. */
  readonly copies: ReadonlyMap<string, string>;
  readonly filmPath: string;
  readonly partsFolder: string;
}

export type ExportMessage =
  | ({ readonly kind: "progress" } & FilmProgress)
  | { readonly kind: "done"; readonly report: string; readonly bytes: number; readonly measurement: FilmMeasurement }
  | { readonly kind: "failed"; readonly code: string; readonly message: string };

const task = (workerData as { data: ExportTask }).data;
const port = parentPort!;
const say = (message: ExportMessage): void => port.postMessage(message);
const cancel = new AbortController();
port.once("message", () => cancel.abort(new HummingTideError("cancelled", "The export was cancelled.")));

try {
  const { document, output } = task;
  const plan = planOutput(document, output, factsOf(task.facts));
  const poster = posterSlide(document);
  const request = {
    plan,
    store: new ContentStore(task.folder),
    title: document.title,
    form: output,
    chapters: chaptersOf(document, plan),
    poster: poster ? drawnPicture(poster.sha256, poster.turn) : null,
    copies: task.copies,
    filmPath: task.filmPath,
    partsFolder: task.partsFolder,
    songPathOf: (sha256: string) => document.songs.find((song) => song.sha256 === sha256)?.fileName ?? sha256,
    signal: cancel.signal,
    onProgress: (progress: FilmProgress) => say({ kind: "progress", ...progress }),
  };
  const made = await makeFilm(request);
  const measurement = await measureFilm(request, made);
  say({ kind: "done", report: JSON.stringify(made.report, null, 1), bytes: made.bytes, measurement });
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

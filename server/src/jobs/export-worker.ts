import { parentPort, workerData } from "node:worker_threads";
import type { Container, FilmMeasurement } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { filmFacts, planFilm, type SeenMedia } from "@humming-tide/core/film";
import type { MusicAnalysis } from "@humming-tide/core/music";
import type { ShowDocument } from "@humming-tide/core/show";
import type { DataFolder } from "../data-folder.ts";
import { type FilmProgress, makeFilm, measureFilm } from "../export/make-film.ts";
import { ContentStore } from "../media/content-store.ts";

export interface ExportTask {
  readonly folder: DataFolder;
  /** In the size and rate of the film. */
  readonly document: ShowDocument;
  readonly container: Container;
  readonly analyses: Readonly<Record<string, MusicAnalysis>>;
  readonly seen: Readonly<Record<string, SeenMedia>>;
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
  const facts = filmFacts(
    (sha256) => task.analyses[sha256],
    (sha256) => task.seen[sha256],
  );
  const request = {
    plan: planFilm(task.document, facts),
    store: new ContentStore(task.folder),
    title: task.document.title,
    container: task.container,
    copies: task.copies,
    filmPath: task.filmPath,
    partsFolder: task.partsFolder,
    songPathOf: (sha256: string) => task.document.songs.find((song) => song.sha256 === sha256)?.fileName ?? sha256,
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

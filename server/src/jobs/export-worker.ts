import { parentPort, workerData } from "node:worker_threads";
import { type ErrorData, HummingTideError } from "@humming-tide/core";
import { factsOf, planOutput } from "@humming-tide/core/film";
import { present } from "@humming-tide/core/presence";
import type { FilmOutput, ShowDocument } from "@humming-tide/core/show";
import type { DataFolder } from "../data-folder.ts";
import { ContentStore } from "../media/content-store.ts";
import { readFacts, type StoredFacts } from "../media/stored-facts.ts";
import type { OutputProgress, WrittenOutput } from "../outputs/output-writer.ts";
import { writerOf } from "../outputs/writers.ts";
import { jobError } from "./job-errors.ts";

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

export type ExportMessage =
  | ({ readonly kind: "progress" } & OutputProgress)
  | ({ readonly kind: "done" } & WrittenOutput)
  | { readonly kind: "failed"; readonly error: ErrorData };

const { document, output, facts, folder, copies, filmPath, partsFolder } = workerData as ExportTask;
const port = present(parentPort);
const say = (message: ExportMessage): void => port.postMessage(message);
const cancel = new AbortController();
port.once("message", () => cancel.abort(jobError("cancelled")));

try {
  const written = await writerOf(output.container).write({
    ...{ document, output, copies, partsFolder, place: filmPath, signal: cancel.signal },
    plan: planOutput(document, output, factsOf(readFacts(facts))),
    store: new ContentStore(folder),
    onProgress: (progress) => say({ kind: "progress", ...progress }),
  });
  say({ kind: "done", ...written });
} catch (error) {
  const known =
    error instanceof HummingTideError ? error : jobError("export-failed", { why: (error as Error).message });
  say({ kind: "failed", error: known.data });
}
port.close();

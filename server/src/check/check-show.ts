import { mkdir, mkdtemp, rm } from "node:fs/promises";
import path from "node:path";
import type { CheckFacts } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { checkMedia, type Finding, sortedFindings } from "@humming-tide/core/check";
import type { ShowDocument } from "@humming-tide/core/show";
import type { DataFolder } from "../data-folder.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { startWorker } from "../workers/start-worker.ts";
import { workerMessages } from "../workers/worker-messages.ts";
import type { CheckMessage, CheckTask } from "./check-worker.ts";
import { filesOf, type StoredMedia } from "./stored-media.ts";

export interface CheckRequest {
  readonly folder: DataFolder;
  readonly library: MediaLibrary;
  readonly planner: FilmPlanner;
  readonly stored: StoredMedia;
  readonly document: ShowDocument;
  readonly signal: AbortSignal;
  /** 0 to 1. */
  readonly onProgress: (step: string, progress: number) => void;
}

export interface CheckedShow {
  readonly findings: readonly Finding[];
  readonly facts: CheckFacts;
}

/** Files are read quicker than films are drawn. */
const FILES_SHARE = 0.1;

/**
 * Checks a show as thoroughly as can be: its files on disk, its plan in every output, its sound for
 * loudness and peaks. Each of its frames is checked for flashes and bars, in every shape and part.
 * Where a file is missing, what was made of it when it came in is looked at in its place; where
 * that is gone too, only the files are told. Throws what `planFilm` throws where there is no film,
 * and the signal's reason.
 */
export async function checkShow(request: CheckRequest): Promise<CheckedShow> {
  const { library, planner, stored, document, signal, onProgress } = request;
  const files = filesOf(document);
  const trouble = await stored.look(files, signal, (share) => onProgress("Looking at the files", FILES_SHARE * share));
  const media = checkMedia(document, trouble);
  const known = { files: files.length, frames: 0, landings: null, levels: null };
  try {
    const facts = await library.storedFacts(document);
    const plan = await planner.plan(document, null);
    const prepared = library.prepareFilm(document, plan);
    // What cannot be made of a missing file may not be needed: frames are small here.
    await (media.length === 0 ? prepared : prepared.catch(() => undefined));
    signal.throwIfAborted();
    const checked = await watchAndListen(request, facts);
    return {
      findings: sortedFindings([...media, ...checked.findings]),
      facts: { files: files.length, ...checked.facts },
    };
  } catch (error) {
    if (signal.aborted || media.length === 0) throw error;
    return { findings: media, facts: known };
  }
}

/** On a thread of its own. */
async function watchAndListen(
  { folder, document, signal, onProgress }: CheckRequest,
  facts: CheckTask["facts"],
): Promise<Extract<CheckMessage, { kind: "done" }>> {
  await mkdir(folder.unfinished, { recursive: true });
  const unpackedFolder = await mkdtemp(path.join(folder.unfinished, "check-"));
  const task: CheckTask = { folder, document, facts, unpackedFolder };
  const worker = startWorker(new URL("./check-worker.ts", import.meta.url), task);
  const stop = (): void => worker.postMessage("cancel");
  signal.addEventListener("abort", stop);
  try {
    for await (const message of workerMessages<CheckMessage>(worker, ({ kind }) => kind !== "progress")) {
      if (message.kind === "done") return message;
      if (message.kind === "failed") throw new HummingTideError(message.error);
      onProgress(message.step, FILES_SHARE + (1 - FILES_SHARE) * message.progress);
    }
    throw new Error("the check ended without a result");
  } finally {
    signal.removeEventListener("abort", stop);
    await worker.terminate();
    await rm(unpackedFolder, { recursive: true, force: true });
  }
}

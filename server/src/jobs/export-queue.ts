import { EventEmitter } from "node:events";
import { mkdir, readdir, rm, writeFile } from "node:fs/promises";
import path from "node:path";
import type { ExportJob } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { type FilmPlan, showForOutput } from "@humming-tide/core/film";
import type { FilmOutput, ShowDocument } from "@humming-tide/core/show";
import type { Background } from "../background/background.ts";
import type { DataFolder } from "../data-folder.ts";
import { fileEnding } from "../documents/export-facts.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { writerOf } from "../outputs/writers.ts";
import type { ExportStore } from "../store/export-store.ts";
import type { Stores } from "../store/stores.ts";
import { startWorker } from "../workers/start-worker.ts";
import { workerMessages } from "../workers/worker-messages.ts";
import { checkDiskSpace } from "./disk-space.ts";
import type { ExportMessage, ExportTask } from "./export-worker.ts";
import type { FilmsFolder } from "./films-folder.ts";
import { jobError } from "./job-errors.ts";
import { MOST_TRIES } from "./job-keeper.ts";
import { type JobContext, JobRunner } from "./job-runner.ts";

/** Finished segments of a film that is being made (outputs/video/film-parts.ts). */
const PARTS_FOLDER = "parts";
const REPORT_FILE = "report.json";

const ABANDONED =
  `The server stopped ${MOST_TRIES} times while this film was made, so it is not begun again ` +
  "by itself. The machine may lack memory: export fewer or smaller films at a time.";

export interface ExportSources {
  readonly folder: DataFolder;
  readonly stores: Pick<Stores, "exports">;
  readonly filmsFolder: FilmsFolder;
  readonly library: MediaLibrary;
  readonly planner: FilmPlanner;
  readonly background: Background;
}

/** Exports one after another, each on a thread of its own. Emits "change" with the job. */
export class ExportQueue extends EventEmitter<{ change: [ExportJob] }> {
  readonly #folder: DataFolder;
  readonly #exports: ExportStore;
  readonly #filmsFolder: FilmsFolder;
  readonly #library: MediaLibrary;
  readonly #planner: FilmPlanner;
  readonly #background: Background;
  readonly #runner: JobRunner<ExportJob>;

  constructor({ folder, stores: { exports }, filmsFolder, library, planner, background }: ExportSources) {
    super();
    this.setMaxListeners(0);
    this.#folder = folder;
    this.#exports = exports;
    this.#filmsFolder = filmsFolder;
    this.#library = library;
    this.#planner = planner;
    this.#background = background;
    this.#runner = new JobRunner<ExportJob>({
      keeper: exports.jobs,
      noun: "export",
      limit: 1,
      load: (id) => exports.get(id),
      firstStep: "Preparing the pictures",
      work: (job, context) => this.#export(job, context),
      abandonedError: ABANDONED,
      failed: (error) => ({ state: "failed", step: "Failed", error: messageOf(error) }),
      cancelledStep: "Cancelled",
      onChange: (job) => this.emit("change", job),
    });
  }

  start(): Promise<void> {
    return this.#runner.start();
  }

  /**
   * Queues exports of the show as it is now, one for each output: all of them or none. Throws what
   * planFilm throws where there is no film, and what the writers' `check` throws. Throws
   * `disk-short` where the disk has no room for them and for what waits already.
   */
  async add(showId: string, document: ShowDocument, outputs: readonly FilmOutput[]): Promise<ExportJob[]> {
    for (const output of outputs) await writerOf(output.container).check(output);
    let bytes = await this.#waitingBytes();
    for (const output of outputs) bytes += estimatedBytes(await this.#planner.plan(document, output), output);
    await checkDiskSpace(this.#folder.exports, bytes);
    const jobs: ExportJob[] = [];
    for (const output of outputs) {
      const job = await this.#exports.create(showId, document, output);
      this.emit("change", job);
      jobs.push(job);
    }
    this.#runner.look();
    return jobs;
  }

  /** Of what is queued already, about. */
  async #waitingBytes(): Promise<number> {
    let bytes = 0;
    for (const { id, output } of await this.#exports.waiting()) {
      const plan = await this.#planner.plan(await this.documentOf(id), output).catch(() => null);
      if (plan) bytes += estimatedBytes(plan, output);
    }
    return bytes;
  }

  /** Throws `export-unknown`. */
  async get(id: string): Promise<ExportJob> {
    return this.#runner.running(id) ?? this.#exports.get(id);
  }

  async listForShow(showId: string): Promise<ExportJob[]> {
    const jobs = await this.#exports.listForShow(showId);
    return jobs.map((job) => this.#runner.running(job.id) ?? job);
  }

  /** The show as it was when the export was asked for. */
  async documentOf(id: string): Promise<ShowDocument> {
    return this.#background.run("readStored", await this.#exports.documentText(id));
  }

  filmPath({ id, output }: Pick<ExportJob, "id" | "output">): string {
    return path.join(this.#folder.exports, id, `film.${fileEnding(output)}`);
  }

  reportPath(id: string): string {
    return path.join(this.#folder.exports, id, REPORT_FILE);
  }

  /** Cancels what is queued or running; what has ended stays as it is. Throws `export-unknown`. */
  async cancel(id: string): Promise<void> {
    await this.get(id);
    await this.#runner.cancel(id);
  }

  /** Lets a waiting export be the next. Throws `export-unknown`. */
  async moveToFront(id: string): Promise<void> {
    await this.get(id);
    await this.#runner.moveToFront(id);
  }

  close(): Promise<void> {
    return this.#runner.close();
  }

  async #export(job: ExportJob, { signal, tell }: JobContext): Promise<string> {
    const folder = path.join(this.#folder.exports, job.id);
    await clearButParts(folder);
    // Large copies for a film in 4K take a while: stopping does not wait for them, and the next
    // export finds them.
    const task = await Promise.race([this.#task(job), rejectedAt(signal)]);
    const worker = startWorker(new URL("./export-worker.ts", import.meta.url), task);
    const stop = (): void => {
      if ((signal.reason as { code?: string }).code === "cancelled") worker.postMessage("cancel");
      else void worker.terminate();
    };
    signal.addEventListener("abort", stop, { once: true });
    try {
      for await (const message of workerMessages<ExportMessage>(worker, ({ kind }) => kind !== "progress")) {
        if (message.kind === "progress") tell(message.step, message.progress);
        else if (message.kind === "failed") throw new HummingTideError(message.error);
        else return await this.#finish(job, message);
      }
      throw new Error("the thread ended without a result");
    } finally {
      signal.removeEventListener("abort", stop);
      await worker.terminate();
    }
  }

  async #finish(job: ExportJob, { bytes, film }: Extract<ExportMessage, { kind: "done" }>): Promise<string> {
    if (film) await writeFile(this.reportPath(job.id), film.report);
    const { copiedTo, problem } = await this.#filmsFolder.put(this.filmPath(job), job.fileName);
    await this.#exports.finish(job.id, { bytes, measurement: film?.measurement ?? null, copiedTo });
    return problem ?? "Done";
  }

  async #task(job: ExportJob): Promise<ExportTask> {
    const { output } = job;
    const document = await this.documentOf(job.id);
    const facts = await this.#library.storedFacts(document);
    const plan = await this.#planner.plan(document, output);
    await checkDiskSpace(this.#folder.exports, estimatedBytes(plan, output));
    const copies = await this.#library.prepareFilm(showForOutput(document, output), plan);
    const partsFolder = path.join(this.#folder.exports, job.id, PARTS_FOLDER);
    return { folder: this.#folder, document, output, facts, copies, filmPath: this.filmPath(job), partsFolder };
  }
}

/** An export begins with what an earlier start has finished of it, and nothing else. */
async function clearButParts(folder: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  for (const name of await readdir(folder))
    if (name !== PARTS_FOLDER) await rm(path.join(folder, name), { recursive: true, force: true });
}

/** Rejects with the signal's reason as soon as there is one. */
function rejectedAt(signal: AbortSignal): Promise<never> {
  return new Promise((_, reject) => {
    const stop = (): void => reject(signal.reason as Error);
    if (signal.aborted) stop();
    else signal.addEventListener("abort", stop, { once: true });
  });
}

const estimatedBytes = (plan: FilmPlan, { container, quality }: FilmOutput): number =>
  writerOf(container).estimate(plan, quality);

const messageOf = (error: unknown): string =>
  (error instanceof HummingTideError ? error : jobError("export-failed", { why: (error as Error).message })).message;

import { EventEmitter } from "node:events";
import { mkdir, readdir, rm, writeFile } from "node:fs/promises";
import path from "node:path";
import type { Worker } from "node:worker_threads";
import type { ExportJob } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { showForOutput } from "@humming-tide/core/film";
import type { FilmOutput, ShowDocument } from "@humming-tide/core/show";
import type { Background } from "../background/background.ts";
import type { DataFolder } from "../data-folder.ts";
import { fileEnding } from "../documents/export-facts.ts";
import { findFfmpeg } from "../media/ffmpeg.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { exportStore } from "../store/export-store.ts";
import { startWorker } from "../workers/start-worker.ts";
import { workerMessages } from "../workers/worker-messages.ts";
import { checkDiskSpace, estimatedBytes } from "./disk-space.ts";
import type { ExportMessage, ExportTask } from "./export-worker.ts";
import { putFilm } from "./films-folder.ts";
import { secondsLeft } from "./seconds-left.ts";

/** Finished segments of a film that is being made (export/film-parts.ts). */
const PARTS_FOLDER = "parts";
const REPORT_FILE = "report.json";
/** Progress is written down this often; it is told to listeners at every step. */
const SAVE_EVERY_MS = 1000;

interface RunningExport {
  readonly id: string;
  /** Null while what it draws is being prepared. */
  worker: Worker | null;
  cancel: () => void;
}

export interface ExportSources {
  readonly folder: DataFolder;
  readonly library: MediaLibrary;
  readonly planner: FilmPlanner;
  readonly background: Background;
}

/**
 * Exports one after another, each on a thread of its own, kept in the database: what was running when the server stopped
 * starts again with the next start. Emits "change" with the job.
 */
export class ExportQueue extends EventEmitter<{ change: [ExportJob] }> {
  readonly #folder: DataFolder;
  readonly #library: MediaLibrary;
  readonly #planner: FilmPlanner;
  readonly #background: Background;
  #running: RunningExport | null = null;
  #latest: ExportJob | null = null;
  #working: Promise<void> = Promise.resolve();
  #closed = false;

  constructor({ folder, library, planner, background }: ExportSources) {
    super();
    this.setMaxListeners(0);
    this.#folder = folder;
    this.#library = library;
    this.#planner = planner;
    this.#background = background;
  }

  async start(): Promise<void> {
    await exportStore.requeueInterrupted();
    this.#next();
  }

  /**
   * Queues exports of the show as it is now, one for each output: all of them or none. Throws what planFilm throws where there is no film, `size-odd`, `disk-short` where the disk has no room for them and what waits already, and
   * `ffmpeg-missing`.
   */
  async add(showId: string, document: ShowDocument, outputs: readonly FilmOutput[]): Promise<ExportJob[]> {
    await findFfmpeg();
    let bytes = await this.#waitingBytes();
    for (const output of outputs) {
      checkEven(output);
      bytes += estimatedBytes(await this.#planner.plan(document, output), output);
    }
    await checkDiskSpace(this.#folder.exports, bytes);
    const jobs: ExportJob[] = [];
    for (const output of outputs) {
      const job = await exportStore.create(showId, document, output);
      this.emit("change", job);
      jobs.push(job);
    }
    this.#next();
    return jobs;
  }

  /** Of what is queued already, about. */
  async #waitingBytes(): Promise<number> {
    let bytes = 0;
    for (const { id, output } of await exportStore.waiting()) {
      const plan = await this.#planner.plan(await this.documentOf(id), output).catch(() => null);
      if (plan) bytes += estimatedBytes(plan, output);
    }
    return bytes;
  }

  async get(id: string): Promise<ExportJob> {
    return this.#latest?.id === id ? this.#latest : exportStore.get(id);
  }

  async listForShow(showId: string): Promise<ExportJob[]> {
    return (await exportStore.listForShow(showId)).map((job) => (this.#latest?.id === job.id ? this.#latest : job));
  }

  /** The show as it was when the export was asked for. */
  async documentOf(id: string): Promise<ShowDocument> {
    return this.#background.run("readStored", await exportStore.documentText(id));
  }

  filmPath({ id, output }: Pick<ExportJob, "id" | "output">): string {
    return path.join(this.#folder.exports, id, `film.${fileEnding(output)}`);
  }

  reportPath(id: string): string {
    return path.join(this.#folder.exports, id, REPORT_FILE);
  }

  /** Cancels what is queued or running; what has ended stays as it is. */
  async cancel(id: string): Promise<void> {
    if (this.#running?.id === id) {
      this.#running.cancel();
      return;
    }
    const job = await exportStore.get(id);
    if (job.state === "queued") await this.#change(job, { state: "cancelled", step: "Cancelled" });
  }

  /** Stops without marking the running export as cancelled: the next start takes it up again. */
  async close(): Promise<void> {
    this.#closed = true;
    if (this.#running?.worker) await this.#running.worker.terminate();
    else this.#running?.cancel();
    await this.#working;
  }

  #next(): void {
    this.#working = this.#working.then(async () => {
      if (this.#closed) return;
      const next = await exportStore.nextQueued();
      if (!next) return;
      await this.#run(next);
      this.#next();
    });
    this.#working.catch((error: unknown) => console.error("The export queue stumbled:", error));
  }

  async #run(queued: ExportJob): Promise<void> {
    const { id } = queued;
    const folder = path.join(this.#folder.exports, id);
    const running: RunningExport = { id, worker: null, cancel: () => undefined };
    const cancelled = new Promise<never>((_, reject) => {
      running.cancel = () => reject(new HummingTideError("cancelled", "The export was cancelled."));
    });
    cancelled.catch(() => undefined);
    this.#running = running;
    let savedAt = 0;
    try {
      await this.#clear(folder);
      let job = await this.#change(queued, { state: "running", step: "Preparing the pictures" });
      // Large copies for a film in 4K take a while: cancelling does not wait for them, and the next export finds them.
      const worker = startWorker(
        new URL("./export-worker.ts", import.meta.url),
        await Promise.race([this.#task(queued), cancelled]),
      );
      running.worker = worker;
      running.cancel = () => worker.postMessage("cancel");
      const startedAt = Date.now();
      for await (const message of workerMessages<ExportMessage>(worker, ({ kind }) => kind !== "progress")) {
        if (message.kind === "progress") {
          const { step, progress } = message;
          job = { ...job, step, progress, secondsLeft: secondsLeft(progress, (Date.now() - startedAt) / 1000) };
          this.#tell(job);
          if (Date.now() - savedAt > SAVE_EVERY_MS) {
            savedAt = Date.now();
            await exportStore.update(id, { step: job.step, progress: job.progress });
          }
        } else if (message.kind === "done") {
          const { bytes, film } = message;
          if (film) await writeFile(this.reportPath(id), film.report);
          const measurement = film?.measurement ?? null;
          const copied = await putFilm(this.filmPath(job), job.fileName);
          await this.#change(job, { state: "done", step: "Done", progress: 1, bytes, measurement, ...copied });
        } else if (message.code === "cancelled") {
          await this.#change(job, { state: "cancelled", step: "Cancelled" });
        } else {
          await this.#change(job, { state: "failed", step: "Failed", error: message.message });
        }
      }
    } catch (error) {
      if (this.#closed) {
        // Not a failure, and not a crash that counts: it goes on with the next start.
        await exportStore.update(id, { state: "queued", step: "Waiting" }).catch(() => undefined);
        return;
      }
      if (error instanceof HummingTideError && error.code === "cancelled") {
        await this.#change(queued, { state: "cancelled", step: "Cancelled" }).catch(() => undefined);
        return;
      }
      const message =
        error instanceof HummingTideError
          ? error.message
          : `The export failed: ${(error as Error).message}. The show is unharmed; export again.`;
      await this.#change(queued, { state: "failed", step: "Failed", error: message }).catch(() => undefined);
    } finally {
      this.#running = null;
      this.#latest = null;
      await running.worker?.terminate();
    }
  }

  /** An export begins with what an earlier start has finished of it, and nothing else. */
  async #clear(folder: string): Promise<void> {
    await mkdir(folder, { recursive: true });
    for (const name of await readdir(folder))
      if (name !== PARTS_FOLDER) await rm(path.join(folder, name), { recursive: true, force: true });
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

  #tell(job: ExportJob): void {
    this.#latest = job;
    this.emit("change", job);
  }

  async #change(job: ExportJob, change: Partial<ExportJob>): Promise<ExportJob> {
    const { measurement, ...columns } = change;
    await exportStore.update(job.id, { ...columns, ...(measurement ? { measurement } : {}) });
    const changed = { ...job, ...change, secondsLeft: null };
    this.#tell(changed);
    return changed;
  }
}

function checkEven({ size: { width, height } }: FilmOutput): void {
  if (width % 2 === 0 && height % 2 === 0) return;
  throw new HummingTideError(
    "size-odd",
    `A film's width and height are even, because colour is kept for blocks of 2 x 2 pixels, but ${width} x ${height} was asked for.`,
  );
}

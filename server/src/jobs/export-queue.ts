import { EventEmitter, once } from "node:events";
import { mkdir, readdir, rm, writeFile } from "node:fs/promises";
import path from "node:path";
import type { Worker } from "node:worker_threads";
import type { ExportJob, Output, OutputWish } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { planFilm, type SeenMedia } from "@humming-tide/core/film";
import type { MusicAnalysis } from "@humming-tide/core/music";
import type { ShowDocument } from "@humming-tide/core/show";
import type { DataFolder } from "../data-folder.ts";
import { findFfmpeg } from "../media/ffmpeg.ts";
import { type MediaLibrary, seenHashes } from "../media/media-library.ts";
import { exportStore, outputOf, type StoredExport } from "../store/export-store.ts";
import { startWorker } from "../workers/start-worker.ts";
import type { ExportMessage, ExportTask } from "./export-worker.ts";

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

/**
 * Exports one after another, each on a thread of its own, kept in the database: what was running when the server stopped
 * starts again with the next start. Emits "change" with the job.
 */
export class ExportQueue extends EventEmitter<{ change: [ExportJob] }> {
  readonly #folder: DataFolder;
  readonly #library: MediaLibrary;
  #running: RunningExport | null = null;
  #latest: ExportJob | null = null;
  #working: Promise<void> = Promise.resolve();
  #closed = false;

  constructor(folder: DataFolder, library: MediaLibrary) {
    super();
    this.setMaxListeners(0);
    this.#folder = folder;
    this.#library = library;
  }

  async start(): Promise<void> {
    await exportStore.requeueInterrupted();
    this.#next();
  }

  /** Queues an export of the show as it is now. Throws what planFilm throws where there is no film, `size-odd` and `ffmpeg-missing`. */
  async add(showId: string, document: ShowDocument, wish: OutputWish): Promise<ExportJob> {
    await findFfmpeg();
    const output = outputOf(document, wish);
    const { width, height } = output.size;
    if (width % 2 !== 0 || height % 2 !== 0) {
      throw new HummingTideError(
        "size-odd",
        `A film's width and height are even, because colour is kept for blocks of 2 x 2 pixels, but ${width} x ${height} was asked for.`,
      );
    }
    planFilm(inOutput(document, output), await this.#library.filmFacts(document));
    const { job } = await exportStore.create(showId, document, wish);
    this.emit("change", job);
    this.#next();
    return job;
  }

  async get(id: string): Promise<ExportJob> {
    return this.#latest?.id === id ? this.#latest : (await exportStore.get(id)).job;
  }

  async listForShow(showId: string): Promise<ExportJob[]> {
    return (await exportStore.listForShow(showId)).map(({ job }) => (this.#latest?.id === job.id ? this.#latest : job));
  }

  filmPath({ id, output }: Pick<ExportJob, "id" | "output">): string {
    return path.join(this.#folder.exports, id, `film.${output.container}`);
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
    const { job } = await exportStore.get(id);
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

  async #run(stored: StoredExport): Promise<void> {
    const { id } = stored.job;
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
      let job = await this.#change(stored.job, { state: "running", step: "Preparing the pictures" });
      // Large copies for a film in 4K take a while: cancelling does not wait for them, and the next export finds them.
      const worker = startWorker(
        new URL("./export-worker.ts", import.meta.url),
        await Promise.race([this.#task(stored), cancelled]),
      );
      running.worker = worker;
      running.cancel = () => worker.postMessage("cancel");
      const startedAt = Date.now();
      for await (const message of messagesOf(worker)) {
        if (message.kind === "progress") {
          const seconds = (Date.now() - startedAt) / 1000;
          const secondsLeft = message.progress > 0.01 ? (seconds / message.progress) * (1 - message.progress) : null;
          job = { ...job, step: message.step, progress: message.progress, secondsLeft };
          this.#tell(job);
          if (Date.now() - savedAt > SAVE_EVERY_MS) {
            savedAt = Date.now();
            await exportStore.update(id, { step: job.step, progress: job.progress });
          }
        } else if (message.kind === "done") {
          await writeFile(this.reportPath(id), message.report);
          const { bytes, measurement } = message;
          await this.#change(job, { state: "done", step: "Done", progress: 1, bytes, measurement });
        } else if (message.code === "cancelled") {
          await this.#change(job, { state: "cancelled", step: "Cancelled" });
        } else {
          await this.#change(job, { state: "failed", step: "Failed", error: message.message });
        }
      }
    } catch (error) {
      if (this.#closed) return;
      if (error instanceof HummingTideError && error.code === "cancelled") {
        await this.#change(stored.job, { state: "cancelled", step: "Cancelled" }).catch(() => undefined);
        return;
      }
      const message =
        error instanceof HummingTideError
          ? error.message
          : `The export failed: ${(error as Error).message}. The show is unharmed; export again.`;
      await this.#change(stored.job, { state: "failed", step: "Failed", error: message }).catch(() => undefined);
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

  async #task({ job, document: stored }: StoredExport): Promise<ExportTask> {
    const document = inOutput(stored, job.output);
    const facts = await this.#library.filmFacts(document);
    const copies = await this.#library.prepareFilm(document, planFilm(document, facts));
    const seen: Record<string, SeenMedia> = {};
    for (const sha256 of seenHashes(document)) {
      const media = facts.seen(sha256);
      if (media) seen[sha256] = media;
    }
    const analyses: Record<string, MusicAnalysis> = {};
    for (const { sha256 } of document.songs) analyses[sha256] = facts.analysis(sha256)!;
    const partsFolder = path.join(this.#folder.exports, job.id, PARTS_FOLDER);
    const { container } = job.output;
    const filmPath = this.filmPath(job);
    return { folder: this.#folder, document, container, analyses, seen, copies, filmPath, partsFolder };
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

/** The show as it is planned for an output. */
const inOutput = (document: ShowDocument, { size, frameRate }: Output): ShowDocument => ({
  ...document,
  size,
  frameRate,
});

/** A worker's messages until it has said how it ended. A worker that dies without a word throws. */
async function* messagesOf(worker: Worker): AsyncGenerator<ExportMessage> {
  const waiting: ExportMessage[] = [];
  const wake = new EventEmitter();
  let dead: Error | null = null;
  worker.on("message", (message: ExportMessage) => {
    waiting.push(message);
    wake.emit("wake");
  });
  worker.on("error", (error) => {
    dead = error;
    wake.emit("wake");
  });
  worker.on("exit", () => {
    dead ??= new Error("the export's thread ended without a result");
    wake.emit("wake");
  });
  for (;;) {
    const message = waiting.shift();
    if (message) {
      yield message;
      if (message.kind !== "progress") return;
    } else if (dead) {
      throw dead as Error;
    } else {
      await once(wake, "wake");
    }
  }
}

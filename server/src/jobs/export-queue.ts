import { EventEmitter, once } from "node:events";
import { mkdir, rm, writeFile } from "node:fs/promises";
import path from "node:path";
import type { Worker } from "node:worker_threads";
import type { ExportJob } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { planFilm, type SeenMedia } from "@humming-tide/core/film";
import type { MusicAnalysis } from "@humming-tide/core/music";
import type { ShowDocument } from "@humming-tide/core/show";
import type { DataFolder } from "../data-folder.ts";
import { findFfmpeg } from "../media/ffmpeg.ts";
import { type MediaLibrary, seenHashes } from "../media/media-library.ts";
import { exportStore, type StoredExport } from "../store/export-store.ts";
import { startWorker } from "../workers/start-worker.ts";
import type { ExportMessage, ExportTask } from "./export-worker.ts";

const FILM_FILE = "film.mp4";
const REPORT_FILE = "report.json";
/** Progress is written down this often; it is told to listeners at every step. */
const SAVE_EVERY_MS = 1000;

/**
 * Exports one after another, each on a thread of its own, kept in the database: what was running when the server stopped
 * starts again with the next start. Emits "change" with the job.
 */
export class ExportQueue extends EventEmitter<{ change: [ExportJob] }> {
  readonly #folder: DataFolder;
  readonly #library: MediaLibrary;
  #running: { readonly id: string; readonly worker: Worker } | null = null;
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

  /** Queues an export of the show as it is now. Throws what planFilm throws where there is no film, and `ffmpeg-missing`. */
  async add(showId: string, document: ShowDocument): Promise<ExportJob> {
    await findFfmpeg();
    planFilm(document, await this.#library.filmFacts(document));
    const { job } = await exportStore.create(showId, document);
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

  filmPath(id: string): string {
    return path.join(this.#folder.exports, id, FILM_FILE);
  }

  reportPath(id: string): string {
    return path.join(this.#folder.exports, id, REPORT_FILE);
  }

  /** Cancels what is queued or running; what has ended stays as it is. */
  async cancel(id: string): Promise<void> {
    if (this.#running?.id === id) {
      this.#running.worker.postMessage("cancel");
      return;
    }
    const { job } = await exportStore.get(id);
    if (job.state === "queued") await this.#change(job, { state: "cancelled", step: "Cancelled" });
  }

  /** Stops without marking the running export as cancelled: the next start takes it up again. */
  async close(): Promise<void> {
    this.#closed = true;
    await this.#running?.worker.terminate();
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
    let worker: Worker | null = null;
    const startedAt = Date.now();
    let savedAt = 0;
    try {
      await rm(folder, { recursive: true, force: true });
      await mkdir(folder, { recursive: true });
      worker = startWorker(new URL("./export-worker.ts", import.meta.url), await this.#task(stored));
      this.#running = { id, worker };
      let job = await this.#change(stored.job, { state: "running", step: "Starting" });
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
      const message =
        error instanceof HummingTideError
          ? error.message
          : `The export failed: ${(error as Error).message}. The show is unharmed; export again.`;
      await this.#change(stored.job, { state: "failed", step: "Failed", error: message }).catch(() => undefined);
    } finally {
      this.#running = null;
      this.#latest = null;
      await worker?.terminate();
    }
  }

  async #task({ job, document }: StoredExport): Promise<ExportTask> {
    const facts = await this.#library.filmFacts(document);
    await this.#library.ensureAllDrawn(document);
    const seen: Record<string, SeenMedia> = {};
    for (const sha256 of seenHashes(document)) {
      const media = facts.seen(sha256);
      if (media) seen[sha256] = media;
    }
    const analyses: Record<string, MusicAnalysis> = {};
    for (const { sha256 } of document.songs) analyses[sha256] = facts.analysis(sha256)!;
    return { folder: this.#folder, document, analyses, seen, filmPath: this.filmPath(job.id) };
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

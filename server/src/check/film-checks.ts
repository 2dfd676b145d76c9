import { EventEmitter } from "node:events";
import type { CheckRun } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import type { ShowDocument } from "@humming-tide/core/show";
import type { DataFolder } from "../data-folder.ts";
import { secondsLeft } from "../jobs/seconds-left.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { checkShow } from "./check-show.ts";
import { StoredMedia } from "./stored-media.ts";

/** What is checked: a show as it was saved. */
interface CheckedRevision {
  readonly id: string;
  readonly revision: number;
  readonly document: ShowDocument;
}

/**
 * The thorough checks of shows, at most one a show at a time. What was found is kept while the server runs: it can be found again at any time. Emits "change" with the run.
 */
export class FilmChecks extends EventEmitter<{ change: [CheckRun] }> {
  readonly #folder: DataFolder;
  readonly #library: MediaLibrary;
  readonly #planner: FilmPlanner;
  readonly #stored: StoredMedia;
  readonly #runs = new Map<string, CheckRun>();
  readonly #running = new Map<string, { readonly stop: AbortController; readonly ended: Promise<void> }>();

  constructor(folder: DataFolder, library: MediaLibrary, planner: FilmPlanner) {
    super();
    this.setMaxListeners(0);
    this.#folder = folder;
    this.#library = library;
    this.#planner = planner;
    this.#stored = new StoredMedia(library.store);
  }

  /** The last run of a show, of whatever revision; null where there was none. */
  get(showId: string): CheckRun | null {
    return this.#runs.get(showId) ?? null;
  }

  /** Begins to check; a run of an older revision is stopped, one of the same goes on. */
  async start(show: CheckedRevision): Promise<CheckRun> {
    const known = this.#runs.get(show.id);
    if (known?.state === "running" && known.revision === show.revision) return known;
    await this.cancel(show.id);
    const run = this.#tell({
      showId: show.id,
      revision: show.revision,
      state: "running",
      step: "Looking at the files",
      progress: 0,
      secondsLeft: null,
      error: null,
      findings: [],
      facts: null,
    });
    const stop = new AbortController();
    this.#running.set(show.id, { stop, ended: this.#run(show, run, stop.signal) });
    return run;
  }

  /** Stops a run and waits until it has ended. */
  async cancel(showId: string): Promise<void> {
    const running = this.#running.get(showId);
    running?.stop.abort(new HummingTideError("cancelled", "The check was stopped."));
    await running?.ended;
  }

  async close(): Promise<void> {
    await Promise.all([...this.#running.keys()].map((id) => this.cancel(id)));
  }

  async #run(show: CheckedRevision, begun: CheckRun, signal: AbortSignal): Promise<void> {
    const startedAt = Date.now();
    try {
      const { findings, facts } = await checkShow({
        folder: this.#folder,
        library: this.#library,
        planner: this.#planner,
        stored: this.#stored,
        document: show.document,
        signal,
        onProgress: (step, progress) => {
          const left = secondsLeft(progress, (Date.now() - startedAt) / 1000);
          this.#tell({ ...begun, step, progress, secondsLeft: left });
        },
      });
      this.#tell({ ...begun, state: "done", step: "Done", progress: 1, findings: [...findings], facts });
    } catch (error) {
      const isCancelled = error instanceof HummingTideError && error.code === "cancelled";
      this.#tell(
        isCancelled
          ? { ...begun, state: "cancelled", step: "Stopped" }
          : { ...begun, state: "failed", step: "Failed", error: (error as Error).message },
      );
    } finally {
      this.#running.delete(show.id);
    }
  }

  #tell(run: CheckRun): CheckRun {
    this.#runs.set(run.showId, run);
    this.emit("change", run);
    return run;
  }
}

import { EventEmitter } from "node:events";
import { type CheckRun, isUnderWay } from "@humming-tide/contract";
import { valueFor } from "@humming-tide/core/presence";
import type { ShowDocument } from "@humming-tide/core/show";
import type { DataFolder } from "../data-folder.ts";
import { Doors } from "../doors.ts";
import { type JobContext, JobRunner } from "../jobs/job-runner.ts";
import { MemoryJobs } from "../jobs/memory-jobs.ts";
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

/** Shows that are checked at the same time: each draws every frame. */
const MOST_AT_ONCE = 2;

/**
 * The thorough checks of shows, at most one a show at a time. What was found is kept while the
 * server runs: it can be found again at any time. Emits "change" with the run.
 */
export class FilmChecks extends EventEmitter<{ change: [CheckRun] }> {
  readonly #folder: DataFolder;
  readonly #library: MediaLibrary;
  readonly #planner: FilmPlanner;
  readonly #stored: StoredMedia;
  readonly #jobs = new MemoryJobs();
  readonly #runner: JobRunner<CheckRun>;
  /** Two starts at once would both queue the show. */
  readonly #doors = new Doors();
  /** The last run of each show, and what it looks at. */
  readonly #runs = new Map<string, { run: CheckRun; readonly document: ShowDocument }>();

  constructor(folder: DataFolder, library: MediaLibrary, planner: FilmPlanner) {
    super();
    this.setMaxListeners(0);
    this.#folder = folder;
    this.#library = library;
    this.#planner = planner;
    this.#stored = new StoredMedia(library.store);
    this.#runner = new JobRunner<CheckRun>({
      keeper: this.#jobs,
      noun: "check",
      limit: MOST_AT_ONCE,
      load: (showId) => ({ ...valueFor(this.#runs, showId).run, ...this.#jobs.status(showId) }),
      firstStep: "Looking at the files",
      work: (run, context) => this.#check(run, context),
      abandonedError: "The server stopped. Check again.",
      failed: (error) => ({ state: "failed", step: "Failed", error: (error as Error).message }),
      cancelledStep: "Stopped",
      onChange: (run) => this.#tell(run),
    });
  }

  /** The last run of a show, of whatever revision; null where there was none. */
  get(showId: string): CheckRun | null {
    return this.#runs.get(showId)?.run ?? null;
  }

  /** Begins to check; a run of an older revision is stopped, one of the same goes on. */
  start(show: CheckedRevision): Promise<CheckRun> {
    return this.#doors.through(show.id, () => this.#start(show));
  }

  async #start({ id: showId, revision, document }: CheckedRevision): Promise<CheckRun> {
    const known = this.get(showId);
    if (known && isUnderWay(known) && known.revision === revision) return known;
    await this.cancel(showId);
    this.#jobs.add(showId);
    const run: CheckRun = { ...this.#jobs.status(showId), showId, revision, findings: [], facts: null };
    this.#runs.set(showId, { run, document });
    this.#tell(run);
    this.#runner.look();
    return run;
  }

  /** Stops a run and waits until it has ended. */
  async cancel(showId: string): Promise<void> {
    await this.#runner.cancel(showId);
    await this.#runner.ended(showId);
  }

  /** Nothing goes on with the next start: what runs is stopped. */
  close(): Promise<void> {
    return this.#runner.close();
  }

  async #check({ showId }: CheckRun, { signal, tell }: JobContext): Promise<string> {
    const { run, document } = valueFor(this.#runs, showId);
    const { findings, facts } = await checkShow({
      folder: this.#folder,
      library: this.#library,
      planner: this.#planner,
      stored: this.#stored,
      document,
      signal,
      onProgress: tell,
    });
    this.#runs.set(showId, { run: { ...run, findings: [...findings], facts }, document });
    return "Done";
  }

  #tell(run: CheckRun): void {
    const kept = this.#runs.get(run.showId);
    if (kept) kept.run = run;
    this.emit("change", run);
  }
}

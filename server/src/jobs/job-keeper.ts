import type { JobStatus } from "@humming-tide/contract";

/** How a job ended, or why it is paused. */
export type JobEnd = Pick<JobStatus, "state" | "step" | "error"> & { readonly progress?: number | null };

/** Given at once, or later. */
type Later<T> = T | Promise<T>;

/** A job that was begun so often and took the server down each time is not begun again. */
export const MOST_TRIES = 3;

/**
 * Where the jobs of one kind wait, and who has which: the runner's view of a table
 * (store/job-table.ts), or of a list in memory (memory-jobs.ts).
 */
export interface JobKeeper {
  /**
   * Gives the next queued job to the caller until `untilMs`, marks it as running, counts the
   * try and forgets an earlier error. Null where none waits. Whoever asks at the same time gets
   * another one.
   */
  claimNext(untilMs: number): Later<string | null>;
  /** The heartbeat: whoever runs a job has it until `untilMs`. */
  renew(id: string, untilMs: number): Later<void>;
  /** Notes how far a running job is; nothing where it no longer runs. */
  progress(id: string, step: string, progress: number): Later<void>;
  end(id: string, end: JobEnd): Later<void>;
  /** Gives a running job back to the queue; the try does not count. */
  putBack(id: string): Later<void>;
  /**
   * Running jobs whose time had ended at `nowMs` are queued again; at the last of `MOST_TRIES` they
   * fail with `lastError`. Returns their ids.
   */
  requeueAbandoned(nowMs: number, lastError: string): Later<readonly string[]>;
  /** Cancels a job that waits or is paused; returns whether it was one. */
  cancelWaiting(id: string, step: string): Later<boolean>;
  /** Queues a job that is paused or has failed; returns whether it was one. */
  resume(id: string): Later<boolean>;
  /** Puts a waiting job before all others; returns whether it was one. */
  moveToFront(id: string): Later<boolean>;
}

import type { JobStatus } from "@humming-tide/contract";
import { type JobEnd, type JobKeeper, MOST_TRIES } from "./job-keeper.ts";

interface KeptJob {
  status: JobStatus;
  leasedUntilMs: number;
}

const QUEUED: JobStatus = {
  state: "queued",
  step: "Waiting",
  progress: 0,
  secondsLeft: null,
  error: null,
  tries: 0,
  position: 0,
};

/** Jobs that end with the server: nothing is lost, because they can be asked for again. */
export class MemoryJobs implements JobKeeper {
  /** By id, in the order in which they were asked for. */
  readonly #jobs = new Map<string, KeptJob>();

  /** Queues a job; one of the same id is asked for anew. */
  add(id: string): void {
    this.#jobs.delete(id);
    this.#jobs.set(id, { status: QUEUED, leasedUntilMs: 0 });
  }

  /** Throws where there is no such job. */
  status(id: string): JobStatus {
    const job = this.#jobs.get(id);
    if (!job) throw new Error(`There is no job ${id}`);
    return job.status;
  }

  claimNext(untilMs: number): string | null {
    const [next] = this.#inState("queued").sort(([, a], [, b]) => a.status.position - b.status.position);
    if (!next) return null;
    const [id, job] = next;
    job.status = { ...job.status, state: "running", tries: job.status.tries + 1, error: null };
    job.leasedUntilMs = untilMs;
    return id;
  }

  renew(id: string, untilMs: number): void {
    const job = this.#jobs.get(id);
    if (job?.status.state === "running") job.leasedUntilMs = untilMs;
  }

  progress(id: string, step: string, progress: number): void {
    this.#change(id, ["running"], { step, progress });
  }

  end(id: string, { progress, ...end }: JobEnd): void {
    const job = this.#jobs.get(id);
    if (job) job.status = { ...job.status, ...end, progress: progress ?? job.status.progress };
  }

  putBack(id: string): void {
    const job = this.#jobs.get(id);
    this.#change(id, ["running"], { ...QUEUED, tries: Math.max(0, (job?.status.tries ?? 0) - 1) });
  }

  requeueAbandoned(nowMs: number, lastError: string): readonly string[] {
    const abandoned = this.#inState("running").filter(([, job]) => job.leasedUntilMs <= nowMs);
    for (const [, job] of abandoned)
      job.status =
        job.status.tries >= MOST_TRIES
          ? { ...job.status, state: "failed", step: "Failed", error: lastError }
          : { ...job.status, state: "queued", step: "Starting again" };
    return abandoned.map(([id]) => id);
  }

  cancelWaiting(id: string, step: string): boolean {
    return this.#change(id, ["queued", "paused"], { state: "cancelled", step, error: null });
  }

  resume(id: string): boolean {
    return this.#change(id, ["paused", "failed"], { state: "queued", step: "Waiting", error: null, tries: 0 });
  }

  moveToFront(id: string): boolean {
    const first = Math.min(...this.#inState("queued").map(([, { status }]) => status.position));
    return this.#change(id, ["queued"], { position: first - 1 });
  }

  #inState(state: string): [string, KeptJob][] {
    return [...this.#jobs].filter(([, job]) => job.status.state === state);
  }

  #change(id: string, from: readonly string[], change: Partial<JobStatus>): boolean {
    const job = this.#jobs.get(id);
    if (!job || !from.includes(job.status.state)) return false;
    job.status = { ...job.status, ...change };
    return true;
  }
}

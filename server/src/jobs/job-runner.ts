import type { JobStatus } from "@humming-tide/contract";
import { valueFor } from "@humming-tide/core/presence";
import { jobError } from "./job-errors.ts";
import type { JobEnd, JobKeeper } from "./job-keeper.ts";
import { secondsLeft } from "./seconds-left.ts";

/** Whoever runs a job has it for so long, and says again that it does while it goes on. */
const LEASE_MS = 30_000;
const HEARTBEAT_MS = 10_000;
/** Progress is written down and told this often; a new step at once. */
const TELL_EVERY_MS = 400;

/** What a job's work is given. */
export interface JobContext {
  /**
   * Aborted with `cancelled` where the person stops the job, with `closed` where the server stops.
   */
  readonly signal: AbortSignal;
  /** What is being done now, and the share of the whole that is done, from 0 to 1. */
  readonly tell: (step: string, progress: number) => void;
}

/** One kind of job. */
export interface JobKind<Job extends JobStatus> {
  readonly keeper: JobKeeper;
  /** What the log calls them: "export". */
  readonly noun: string;
  /** So many run at the same time. */
  readonly limit: number;
  /** The job with everything that is kept of it. */
  readonly load: (id: string) => Promise<Job> | Job;
  /** The step that is told when it begins. */
  readonly firstStep: string;
  /** Does the work; the last step that is told is the one it gives. Throws where it fails. */
  readonly work: (job: Job, context: JobContext) => Promise<string>;
  /** What people are told where the server stopped at every try. */
  readonly abandonedError: string;
  /** How a job is left that threw: failed, or paused. */
  readonly failed: (error: unknown) => JobEnd | Promise<JobEnd>;
  /** The step that a cancelled job shows. */
  readonly cancelledStep: string;
  /** Hears of every change of a job. */
  readonly onChange: (job: Job) => void;
}

interface Running<Job> {
  readonly stopping: AbortController;
  readonly ended: Promise<void>;
  job: Job | null;
}

/**
 * Runs the jobs of one kind in the order of their queue. A job is claimed with a lease and a
 * heartbeat; what a server that died had begun is begun again.
 */
export class JobRunner<Job extends JobStatus> {
  readonly #kind: JobKind<Job>;
  readonly #running = new Map<string, Running<Job>>();
  readonly #heart: NodeJS.Timeout;
  #looking: Promise<void> = Promise.resolve();
  #closed = false;
  /** The end of a job could not be written down: it is still marked as running. */
  #hasLostEnd = false;

  constructor(kind: JobKind<Job>) {
    this.#kind = kind;
    this.#heart = setInterval(() => this.#beat(), HEARTBEAT_MS);
    this.#heart.unref();
  }

  /**
   * Takes up what an earlier server had begun, and goes on with the queue. Nobody else works on the
   * data folder, so whatever is marked as running is not.
   */
  async start(): Promise<void> {
    await this.#requeueAbandoned(Number.MAX_SAFE_INTEGER);
    this.look();
  }

  /** Sees whether something waits. */
  look(): void {
    this.#looking = this.#looking
      .then(() => this.#fill())
      .catch((error: unknown) => console.error(`The queue of ${this.#kind.noun}s stumbled:`, error));
  }

  /** The job as it is this moment; null where it does not run here. */
  running(id: string): Job | null {
    return this.#running.get(id)?.job ?? null;
  }

  /** Tells everybody of a job that was changed elsewhere. */
  async tellOf(id: string): Promise<Job> {
    const job = this.running(id) ?? (await this.#kind.load(id));
    this.#kind.onChange(job);
    return job;
  }

  /** Stops a job that runs, waits or is paused; what has ended stays as it is. */
  async cancel(id: string): Promise<void> {
    if (this.#abort(id)) return;
    if (await this.#kind.keeper.cancelWaiting(id, this.#kind.cancelledStep)) await this.tellOf(id);
    // It may have been claimed in this very moment.
    else this.#abort(id);
  }

  /** Goes on with a job that is paused or has failed. */
  async resume(id: string): Promise<void> {
    if (!(await this.#kind.keeper.resume(id))) return;
    await this.tellOf(id);
    this.look();
  }

  /** Lets a waiting job be the next. */
  async moveToFront(id: string): Promise<void> {
    if (await this.#kind.keeper.moveToFront(id)) await this.tellOf(id);
  }

  /** Waits until a job no longer runs. */
  async ended(id: string): Promise<void> {
    await this.#running.get(id)?.ended;
  }

  /** Stops without ending what runs: the next start takes it up again. */
  async close(): Promise<void> {
    this.#closed = true;
    clearInterval(this.#heart);
    for (const { stopping } of this.#running.values()) stopping.abort(jobError("closed"));
    await this.#looking;
    await Promise.all([...this.#running.values()].map(({ ended }) => ended));
  }

  #abort(id: string): boolean {
    const running = this.#running.get(id);
    running?.stopping.abort(jobError("cancelled"));
    return running !== undefined;
  }

  #beat(): void {
    for (const id of this.#running.keys()) void this.#renew(id);
    if (this.#hasLostEnd) this.#findLost();
  }

  /** Queues what nobody runs any more, once its lease has ended. */
  #findLost(): void {
    this.#looking = this.#looking
      .then(async () => {
        // What runs here is not lost, however long this machine slept.
        for (const id of this.#running.keys()) await this.#kind.keeper.renew(id, Date.now() + LEASE_MS);
        const found = await this.#requeueAbandoned(Date.now());
        if (found > 0) this.#hasLostEnd = false;
        await this.#fill();
      })
      .catch((error: unknown) => console.error(`The lost ${this.#kind.noun}s could not be looked for:`, error));
  }

  async #renew(id: string): Promise<void> {
    try {
      await this.#kind.keeper.renew(id, Date.now() + LEASE_MS);
    } catch (error) {
      console.error("A heartbeat failed:", error);
    }
  }

  /** Returns how many they were. */
  async #requeueAbandoned(nowMs: number): Promise<number> {
    const { keeper, abandonedError } = this.#kind;
    const ids = await keeper.requeueAbandoned(nowMs, abandonedError);
    for (const id of ids) await this.tellOf(id);
    return ids.length;
  }

  async #fill(): Promise<void> {
    while (!this.#closed && this.#running.size < this.#kind.limit) {
      const id = await this.#kind.keeper.claimNext(Date.now() + LEASE_MS);
      if (id === null) return;
      const stopping = new AbortController();
      // A server that began to stop meanwhile gives it back.
      if (this.#closed) stopping.abort(jobError("closed"));
      const work = Promise.resolve().then(() => this.#run(id, stopping.signal));
      const ended = work.finally(() => {
        this.#running.delete(id);
        this.look();
      });
      this.#running.set(id, { stopping, ended, job: null });
    }
  }

  /**
   * Never throws: a job whose end cannot be written down is begun again when its lease has ended.
   */
  async #run(id: string, signal: AbortSignal): Promise<void> {
    const { keeper, noun } = this.#kind;
    try {
      const end = await this.#outcome(id, signal);
      if (end === null) await keeper.putBack(id);
      else await keeper.end(id, end);
    } catch (error) {
      this.#hasLostEnd = true;
      console.error(`The end of the ${noun} ${id} could not be written down:`, error);
      return;
    }
    valueFor(this.#running, id).job = null;
    await this.tellOf(id).catch((error: unknown) => console.error(`The ${noun} ${id} could not be told of:`, error));
  }

  /** How the job ended; null where it goes on with the next start. */
  async #outcome(id: string, signal: AbortSignal): Promise<JobEnd | null> {
    try {
      const job = await this.#kind.load(id);
      signal.throwIfAborted();
      const step = await this.#kind.work(job, { signal, tell: this.#teller(id, job) });
      return { state: "done", step, progress: 1, error: null };
    } catch (error) {
      if (this.#closed) return null;
      if (signal.aborted) return { state: "cancelled", step: this.#kind.cancelledStep, error: null };
      return this.#kind.failed(error);
    }
  }

  /** Takes up what the work tells. */
  #teller(id: string, begun: Job): JobContext["tell"] {
    const { onChange, firstStep } = this.#kind;
    const running = valueFor(this.#running, id);
    const startedAt = Date.now();
    let toldAt = 0;
    // What an earlier run had done says nothing of the speed of this one.
    let from: number | null = null;
    const first = { ...begun, step: firstStep, secondsLeft: null };
    running.job = first;
    onChange(first);
    return (step, progress) => {
      const before = running.job ?? begun;
      from ??= progress;
      const left = secondsLeft(progress, (Date.now() - startedAt) / 1000, from);
      const job = { ...before, step, progress, secondsLeft: left };
      running.job = job;
      if (step === before.step && Date.now() - toldAt < TELL_EVERY_MS) return;
      toldAt = Date.now();
      onChange(job);
      void this.#note(id, step, progress);
    };
  }

  /** Never throws: progress that is not written down is only shown late after a restart. */
  async #note(id: string, step: string, progress: number): Promise<void> {
    try {
      await this.#kind.keeper.progress(id, step, progress);
    } catch (error) {
      console.error(`The progress of the ${this.#kind.noun} ${id} could not be written down:`, error);
    }
  }
}

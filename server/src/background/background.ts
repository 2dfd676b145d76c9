import { availableParallelism } from "node:os";
import { HummingTideError } from "@humming-tide/core";
import pLimit from "p-limit";
import { Piscina } from "piscina";
import { ZodError } from "zod";
import { documentError } from "../documents/document-errors.ts";
import { builtProgram } from "../workers/built-program.ts";
import type { TaskAnswer } from "./run-task.ts";
import { type Tasks, tasks } from "./tasks.ts";

/** Longer than the longest that any show of the stated bounds takes. */
const LIMIT_MS = 10_000;

/** Tasks that plan a film. They take longest, so they may not take all threads. */
const PLANNING: ReadonlySet<keyof Tasks> = new Set(["plan", "filmSeconds", "filmFile"]);
const PLANNING_THREADS = Math.max(2, availableParallelism());
/** Reading and saving always find a thread beside those that plan. */
const READING_THREADS = 2;

interface BackgroundOptions {
  /**
   * Without threads for a program that nobody else asks: starting one takes longer than most tasks.
   */
  readonly hasThreads: boolean;
  readonly limitMs?: number;
}

/**
 * Work that must not hold the server's thread: reading, checking and planning shows. A server does
 * it on threads, with a time limit: a task that takes too long ends with its thread, and a new one
 * takes its place.
 */
export class Background {
  readonly #pool: Piscina | null;
  readonly #limitMs: number;
  readonly #planning = pLimit(PLANNING_THREADS);
  readonly #reading = pLimit(READING_THREADS);

  constructor({ hasThreads, limitMs = LIMIT_MS }: BackgroundOptions) {
    this.#pool = hasThreads ? newPool() : null;
    this.#limitMs = limitMs;
  }

  /** Throws what the task throws, and `time-limit`. */
  async run<Name extends keyof Tasks>(
    name: Name,
    data: Parameters<Tasks[Name]>[0],
  ): Promise<Awaited<ReturnType<Tasks[Name]>>> {
    const pool = this.#pool;
    if (!pool) {
      const task = tasks[name] as (data: unknown) => ReturnType<Tasks[Name]>;
      return await task(data);
    }
    // Waiting for a thread does not count: the time begins when there is one.
    const lane = PLANNING.has(name) ? this.#planning : this.#reading;
    const answer = await lane(() => this.#limited(pool, name, data));
    if ("issues" in answer) throw new ZodError(answer.issues);
    if ("error" in answer) throw new HummingTideError(answer.error);
    return answer.result as Awaited<ReturnType<Tasks[Name]>>;
  }

  async close(): Promise<void> {
    await this.#pool?.destroy();
  }

  async #limited(pool: Piscina, name: keyof Tasks, data: unknown): Promise<TaskAnswer> {
    const signal = AbortSignal.timeout(this.#limitMs);
    try {
      return (await pool.run({ name, data }, { signal })) as TaskAnswer;
    } catch (cause) {
      if (!signal.aborted) throw cause;
      throw documentError("time-limit", { limitSeconds: this.#limitMs / 1000 }, { cause });
    }
  }
}

const newPool = (): Piscina =>
  new Piscina({
    filename: builtProgram(new URL("./run-task.ts", import.meta.url)),
    // One is ready before it is asked for.
    minThreads: 1,
    maxThreads: PLANNING_THREADS + READING_THREADS,
    idleTimeout: 60_000,
    concurrentTasksPerWorker: 1,
  });

import { availableParallelism } from "node:os";
import { fileURLToPath } from "node:url";
import { HummingTideError } from "@humming-tide/core";
import { Piscina } from "piscina";
import { ZodError } from "zod";
import type { TaskAnswer } from "./run-task.ts";
import { type Tasks, tasks } from "./tasks.ts";

/** Longer than the longest that any show of the stated bounds takes. */
const LIMIT_MS = 10_000;

/**
 * Work that must not hold the server's thread: reading, checking and planning shows. For a server it runs on threads of its own, with a
 * time limit: a task that takes too long ends with its thread, and a new one takes its place.
 */
export class Background {
  readonly #pool: Piscina | null;

  /** Without threads, for a program that nobody else asks anything: starting one takes longer than most tasks. */
  constructor({ hasThreads }: { readonly hasThreads: boolean }) {
    this.#pool = hasThreads ? newPool() : null;
  }

  /** Throws what the task throws, and `time-limit`. */
  async run<Name extends keyof Tasks>(
    name: Name,
    data: Parameters<Tasks[Name]>[0],
    limitMs = LIMIT_MS,
  ): Promise<Awaited<ReturnType<Tasks[Name]>>> {
    if (!this.#pool) {
      const task = tasks[name] as (data: unknown) => ReturnType<Tasks[Name]>;
      return await task(data);
    }
    const signal = AbortSignal.timeout(limitMs);
    let answer: TaskAnswer;
    try {
      answer = (await this.#pool.run({ name, data }, { signal })) as TaskAnswer;
    } catch (cause) {
      if (!signal.aborted) throw cause;
      throw new HummingTideError(
        "time-limit",
        `This show takes longer than ${limitMs / 1000} s to work out, so it was stopped. Nothing was changed. Make it smaller: fewer slides, songs or outputs.`,
        { cause },
      );
    }
    if ("issues" in answer) throw new ZodError(answer.issues);
    if ("code" in answer) throw new HummingTideError(answer.code, answer.message);
    return answer.result as Awaited<ReturnType<Tasks[Name]>>;
  }

  async close(): Promise<void> {
    await this.#pool?.destroy();
  }
}

const newPool = (): Piscina =>
  new Piscina({
    filename: fileURLToPath(new URL("./entry.mjs", import.meta.url)),
    // One is ready before it is asked for.
    minThreads: 1,
    // One that is held by a hostile document must not keep all others waiting.
    maxThreads: Math.max(2, availableParallelism()),
    idleTimeout: 60_000,
    concurrentTasksPerWorker: 1,
  });

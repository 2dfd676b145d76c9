import { availableParallelism } from "node:os";
import { fileURLToPath } from "node:url";
import { HummingTideError } from "@humming-tide/core";
import { Piscina } from "piscina";
import { ZodError } from "zod";
import type { TaskAnswer } from "./run-task.ts";
import type { Tasks } from "./tasks.ts";

/** Longer than the longest that any show of the stated bounds takes. */
const LIMIT_MS = 10_000;

/**
 * Work that must not hold the server's thread, on threads of its own and with a time limit: reading, checking and planning shows. A task
 * that takes too long ends with its thread, and a new one takes its place.
 */
export class Background {
  readonly #pool: Piscina;

  /** Threads start when they are needed; `isWarm` starts one at once. */
  constructor({ isWarm }: { readonly isWarm: boolean }) {
    this.#pool = new Piscina({
      filename: fileURLToPath(new URL("./entry.mjs", import.meta.url)),
      minThreads: isWarm ? 1 : 0,
      // One that is held by a hostile document must not keep all others waiting.
      maxThreads: Math.max(2, availableParallelism()),
      idleTimeout: 60_000,
      concurrentTasksPerWorker: 1,
    });
  }

  /** Throws what the task throws, and `time-limit`. */
  async run<Name extends keyof Tasks>(
    name: Name,
    data: Parameters<Tasks[Name]>[0],
    limitMs = LIMIT_MS,
  ): Promise<Awaited<ReturnType<Tasks[Name]>>> {
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

  close(): Promise<void> {
    return this.#pool.destroy();
  }
}

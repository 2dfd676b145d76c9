import { readFileSync } from "node:fs";
import { performance } from "node:perf_hooks";

const LOOK_EVERY_MS = 5;

export interface Held<T> {
  readonly answer: T;
  /**
   * Milliseconds for which this thread worked on without coming back to its event loop, at most.
   * Linux counts them as time on a processor, so other work on the machine does not count.
   */
  readonly holdMs: number;
}

/**
 * How long `work` held this thread, which is the server's too in tests that open one. Elsewhere
 * than on Linux the time on the clock is taken, which other work on the machine makes longer.
 */
export async function longestHold<T>(work: () => Promise<T>): Promise<Held<T>> {
  let last = workedMs();
  let holdMs = 0;
  const look = (): void => {
    const now = workedMs();
    holdMs = Math.max(holdMs, now - last);
    last = now;
  };
  const timer = setInterval(look, LOOK_EVERY_MS);
  try {
    const answer = await work();
    look();
    return { answer, holdMs };
  } finally {
    clearInterval(timer);
  }
}

function workedMs(): number {
  try {
    // The first number: nanoseconds on a processor (Linux,
    // Documentation/scheduler/sched-stats.rst).
    return Number(readFileSync("/proc/thread-self/schedstat", "utf8").split(" ")[0]) / 1e6;
  } catch {
    return performance.now();
  }
}

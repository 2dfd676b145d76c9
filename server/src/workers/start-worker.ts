import { Worker } from "node:worker_threads";
import { builtProgram } from "./built-program.ts";

/**
 * Starts a module on a thread of its own, which gets `data` as its `workerData`. The caller owns it
 * and terminates it in `finally`.
 */
export function startWorker(module: URL, data: unknown): Worker {
  return new Worker(builtProgram(module), { workerData: data });
}

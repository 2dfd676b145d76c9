import { Worker } from "node:worker_threads";

/** Starts a TypeScript module on a thread of its own. The caller owns it and terminates it in `finally`. */
export function startWorker(module: URL, data: unknown): Worker {
  return new Worker(new URL("./worker-entry.mjs", import.meta.url), { workerData: { module: module.href, data } });
}

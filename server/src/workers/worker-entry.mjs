// Every worker thread starts here: tsx translates the TypeScript that it is asked to run.
import { workerData } from "node:worker_threads";
import { register } from "tsx/esm/api";

register();
await import(workerData.module);

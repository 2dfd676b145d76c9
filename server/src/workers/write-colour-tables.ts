import { once } from "node:events";
import type { ColourTables, VideoColours } from "@humming-tide/core/colour";
import { startWorker } from "./start-worker.ts";

export interface ColourTablesTask {
  readonly colours: VideoColours;
  /** A file for each table; that of a table which is not needed stays unwritten. */
  readonly places: Readonly<Record<keyof ColourTables, string>>;
}

/**
 * Writes the tables that bring colours of a clip to BT.709, on a thread of its own. Throws what
 * writing throws.
 */
export async function writeColourTables(task: ColourTablesTask): Promise<void> {
  const worker = startWorker(new URL("./colour-tables-worker.ts", import.meta.url), null);
  try {
    worker.postMessage(task);
    const [failure] = (await once(worker, "message")) as [Error | null];
    if (failure) throw failure;
  } finally {
    await worker.terminate();
  }
}

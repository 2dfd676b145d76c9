import { once } from "node:events";
import type { VideoColours } from "@humming-tide/core/colour";
import { startWorker } from "./start-worker.ts";

export interface ColourTableTask {
  readonly colours: VideoColours;
  /** A file that is not there yet. */
  readonly place: string;
}

/**
 * Writes the table that brings colours of a clip to BT.709, on a thread of its own: it takes about
 * a second. Throws what writing throws.
 */
export async function writeColourTable(task: ColourTableTask): Promise<void> {
  const worker = startWorker(new URL("./colour-table-worker.ts", import.meta.url), null);
  try {
    worker.postMessage(task);
    const [failure] = (await once(worker, "message")) as [Error | null];
    if (failure) throw failure;
  } finally {
    await worker.terminate();
  }
}

import { once } from "node:events";
import { mediaError } from "../media/media-errors.ts";
import { startWorker } from "./start-worker.ts";

export interface HeicPixels {
  readonly width: number;
  readonly height: number;
  /** RGBA. */
  readonly pixels: Uint8Array;
}

export type HeicAnswer = HeicPixels | { readonly failure: string };

/**
 * Decodes a HEIC file on a thread of its own, so that the server goes on answering; a second or so
 * for 12 million pixels. Throws `picture-damaged`.
 */
export async function decodeHeic(path: string): Promise<HeicPixels> {
  const worker = startWorker(new URL("./heic-worker.ts", import.meta.url), null);
  try {
    worker.postMessage(path);
    const [answer] = (await once(worker, "message")) as [HeicAnswer];
    if ("failure" in answer) {
      throw mediaError("picture-damaged", { why: answer.failure });
    }
    return answer;
  } finally {
    await worker.terminate();
  }
}

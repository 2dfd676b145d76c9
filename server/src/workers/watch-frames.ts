import { once } from "node:events";
import type { ClipSeries } from "@humming-tide/core/clip-analysis";
import { type FrameSize, WATCHED_RATE, watchedSize } from "@humming-tide/core/clip-analysis";
import { present } from "@humming-tide/core/presence";
import { rawFrames } from "../media/raw-frames.ts";
import type { WatchAnswer, WatchPiece } from "./clip-watch-worker.ts";
import { startWorker } from "./start-worker.ts";

/** Frames that are given to the thread at a time. */
const BATCH = 25;

/**
 * Watches a clip's movement on a thread of its own, so that the server goes on answering. `onStep`
 * hears how many seconds were watched. Throws `ffmpeg-failed`.
 */
export async function watchFrames(
  clip: string,
  seen: FrameSize,
  onStep: (seconds: number) => void,
): Promise<ClipSeries> {
  const size = watchedSize(seen);
  const worker = startWorker(new URL("./clip-watch-worker.ts", import.meta.url), size);
  const tell = async (piece: WatchPiece): Promise<WatchAnswer> => {
    worker.postMessage(piece, piece ? [piece.buffer as ArrayBuffer] : []);
    const [answer] = (await once(worker, "message")) as [WatchAnswer];
    return answer;
  };
  try {
    let batch: Buffer[] = [];
    let count = 0;
    for await (const frame of rawFrames(clip, { ...size, rate: WATCHED_RATE, pixels: "gray" })) {
      batch.push(frame);
      if (batch.length < BATCH) continue;
      count += BATCH;
      await tell(new Uint8Array(Buffer.concat(batch)));
      onStep(count / WATCHED_RATE);
      batch = [];
    }
    if (batch.length > 0) await tell(new Uint8Array(Buffer.concat(batch)));
    return present(await tell(null));
  } finally {
    await worker.terminate();
  }
}

import { parentPort, workerData } from "node:worker_threads";
import { type ClipSeries, ClipWatch, type FrameSize } from "@humming-tide/core/clip-analysis";
import { present } from "@humming-tide/core/presence";

/** The next frame, grey, a byte a pixel; null is the end. */
export type WatchPiece = Uint8Array | null;
/** Null asks for the next piece. */
export type WatchAnswer = ClipSeries | null;

const size = workerData as FrameSize;
const frameBytes = size.width * size.height;
const watch = new ClipWatch(size);

present(parentPort).on("message", (piece: WatchPiece) => {
  if (piece) for (let at = 0; at < piece.length; at += frameBytes) watch.add(piece.subarray(at, at + frameBytes));
  present(parentPort).postMessage((piece ? null : watch.result()) satisfies WatchAnswer);
});

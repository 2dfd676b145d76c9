import { parentPort, workerData } from "node:worker_threads";
import { ClipWatch, CrowdMeter, clipProposal, type FrameSize } from "@humming-tide/core/clip-analysis";
import { present } from "@humming-tide/core/presence";
import { FILM_SAMPLE_RATE } from "../media/decode-sound.ts";
import type { ClipAnswer, ClipPiece } from "./clip-watcher.ts";

const size = workerData as FrameSize;
const frameBytes = size.width * size.height;
const watch = new ClipWatch(size);
const meter = new CrowdMeter(FILM_SAMPLE_RATE);

present(parentPort).on("message", (piece: ClipPiece) => {
  present(parentPort).postMessage(answer(piece) satisfies ClipAnswer);
});

function answer(piece: ClipPiece): ClipAnswer {
  switch (piece.kind) {
    case "frames":
      for (let at = 0; at < piece.pixels.length; at += frameBytes)
        watch.add(piece.pixels.subarray(at, at + frameBytes));
      return null;
    case "sound":
      meter.add(...piece.sound);
      return null;
    case "end":
      return clipProposal({
        seen: watch.result(),
        heard: piece.isHeard ? meter.result() : null,
        faces: piece.faces,
      });
  }
}

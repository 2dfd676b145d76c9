import { parentPort } from "node:worker_threads";
import { analyseMusic, type MonoAudio, waveformPeaks } from "@humming-tide/core/music";
import type { Heard } from "./listen.ts";

parentPort!.once("message", (audio: MonoAudio) => {
  parentPort!.postMessage({ analysis: analyseMusic(audio), peaks: waveformPeaks(audio) } satisfies Heard);
});

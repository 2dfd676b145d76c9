import { analyseMusic, type MonoAudio, waveformPeaks } from "@humming-tide/core/music";
import { shippedBeatNetwork } from "../media/beat-network.ts";
import type { Heard } from "./listen.ts";

/** Runs on a thread of its own (listen.ts). */
export default function listenTask(audio: MonoAudio): Heard {
  return { analysis: analyseMusic(audio, shippedBeatNetwork()), peaks: waveformPeaks(audio) };
}

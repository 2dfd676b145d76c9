import type { MessagePort } from "node:worker_threads";
import {
  analyseMusic,
  type MonoAudio,
  type MusicAnalysis,
  type WaveformPeaks,
  waveformPeaks,
} from "@humming-tide/core/music";
import { shippedBeatNetwork } from "../media/beat-network.ts";

export interface ListenTask {
  readonly audio: MonoAudio;
  /** Hears the share of the analysis that is done, from 0 to 1. */
  readonly progress: MessagePort;
}

export interface Heard {
  readonly analysis: MusicAnalysis;
  readonly peaks: WaveformPeaks;
}

/** Runs on a thread of its own (listen.ts). */
export default function listenTask({ audio, progress }: ListenTask): Heard {
  const analysis = analyseMusic(audio, shippedBeatNetwork(), (share) => progress.postMessage(share));
  progress.close();
  return { analysis, peaks: waveformPeaks(audio) };
}

import { once } from "node:events";
import type { MusicAnalysis, WaveformPeaks } from "@humming-tide/core/music";
import { decodeMono } from "../media/decode-sound.ts";
import { startWorker } from "./start-worker.ts";

export interface Heard {
  readonly analysis: MusicAnalysis;
  readonly peaks: WaveformPeaks;
}

/** Decodes a sound file and analyses it on a thread of its own, so that the server goes on answering. Throws the signal's reason. */
export async function listen(soundPath: string, signal?: AbortSignal): Promise<Heard> {
  const audio = await decodeMono(soundPath, signal ? { signal } : {});
  const worker = startWorker(new URL("./listen-worker.ts", import.meta.url), null);
  try {
    worker.postMessage(audio, [audio.samples.buffer as ArrayBuffer]);
    const [heard] = (await once(worker, "message", signal ? { signal } : {})) as [Heard];
    return heard;
  } finally {
    await worker.terminate();
  }
}

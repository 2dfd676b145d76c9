import { once } from "node:events";
import type { WaveformPeaks } from "@humming-tide/core/music";
import type { SpeechFacts, Stereo } from "@humming-tide/core/sound";
import { FILM_SAMPLE_RATE } from "../media/decode-sound.ts";
import { readStereo } from "../media/read-stereo.ts";
import { encodeStereo } from "../media/write-stereo.ts";
import { startWorker } from "./start-worker.ts";

export interface HeardSpeech {
  readonly facts: SpeechFacts;
  readonly peaks: WaveformPeaks;
  /** With its noise taken down; null where that was not asked for. */
  readonly cleaned: Stereo | null;
}

/** What the thread is asked. */
export interface SpeechQuestion {
  readonly sound: Stereo;
  readonly sampleRate: number;
  readonly cleans: boolean;
}

/** Listens for speech in a decode on a thread of its own, so that the server goes on answering; writes it cleaned where a place is given. */
export async function hearSpeech(soundPath: string, cleanedPath: string | null): Promise<HeardSpeech> {
  const sound = await readStereo(soundPath);
  const worker = startWorker(new URL("./speech-worker.ts", import.meta.url), null);
  try {
    const question: SpeechQuestion = { sound, sampleRate: FILM_SAMPLE_RATE, cleans: cleanedPath !== null };
    worker.postMessage(
      question,
      sound.map((channel) => channel.buffer as ArrayBuffer),
    );
    const [heard] = (await once(worker, "message")) as [HeardSpeech];
    if (cleanedPath !== null && heard.cleaned) await encodeStereo(heard.cleaned, cleanedPath);
    return heard;
  } finally {
    await worker.terminate();
  }
}

import { once } from "node:events";
import type { WaveformPeaks } from "@humming-tide/core/music";
import { present } from "@humming-tide/core/presence";
import type { SpeechFacts, Stereo } from "@humming-tide/core/sound";
import { stereoPieces } from "../media/stereo-pieces.ts";
import { startWorker } from "./start-worker.ts";

/**
 * What is wanted of a decode beside where someone speaks: its waveform, or itself with its noise
 * taken down.
 */
export type SpeechWish = "peaks" | "cleaned";

export interface HeardSpeech {
  readonly facts: SpeechFacts;
  /** Null unless it was wanted. */
  readonly peaks: WaveformPeaks | null;
  readonly cleaned: Stereo | null;
}

/** Null is the end. */
export type SpeechPiece = Stereo | null;
/** Null asks for the next piece. */
export type SpeechAnswer = HeardSpeech | null;

/**
 * Listens for speech in a decode on a thread of its own, so that the server goes on answering.
 * Memory: for the waveform that of one channel, for a cleaned decode three times that of the sound.
 * Throws `ffmpeg-failed`.
 */
export async function hearSpeech(soundPath: string, wish: SpeechWish): Promise<HeardSpeech> {
  const worker = startWorker(new URL("./speech-worker.ts", import.meta.url), wish);
  try {
    for await (const piece of stereoPieces(soundPath)) {
      worker.postMessage(
        piece satisfies SpeechPiece,
        piece.map((channel) => channel.buffer as ArrayBuffer),
      );
      // Decoding is far quicker than listening: it waits, so that nothing piles up between them.
      await once(worker, "message");
    }
    worker.postMessage(null satisfies SpeechPiece);
    const [heard] = (await once(worker, "message")) as [SpeechAnswer];
    return present(heard);
  } finally {
    await worker.terminate();
  }
}

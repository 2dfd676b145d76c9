import { parentPort, workerData } from "node:worker_threads";
import { waveformPeaks } from "@humming-tide/core/music";
import { itemAt, present } from "@humming-tide/core/presence";
import { denoise, joinSamples, SpeechFinder, type Stereo } from "@humming-tide/core/sound";
import { FILM_SAMPLE_RATE } from "../media/decode-sound.ts";
import type { HeardSpeech, SpeechAnswer, SpeechPiece, SpeechWish } from "./hear-speech.ts";

const wish = workerData as SpeechWish;
const finder = new SpeechFinder(FILM_SAMPLE_RATE);
/** Kept where all of it is needed: one channel for the waveform, both to clean them. */
const kept: Float32Array[][] = [[], []];

present(parentPort).on("message", (piece: SpeechPiece) => {
  if (piece === null) {
    present(parentPort).postMessage(result() satisfies SpeechAnswer);
    return;
  }
  finder.add(piece);
  if (wish === "peaks") itemAt(kept, 0).push(piece[0].map((left, i) => 0.5 * (left + itemAt(piece[1], i))));
  if (wish === "cleaned") for (const channel of [0, 1] as const) present(kept[channel]).push(piece[channel]);
  present(parentPort).postMessage(null satisfies SpeechAnswer);
});

function result(): HeardSpeech {
  const facts = finder.result();
  return {
    facts,
    peaks: wish === "peaks" ? waveformPeaks({ samples: whole(0), sampleRate: FILM_SAMPLE_RATE }) : null,
    cleaned: wish === "cleaned" ? denoise([whole(0), whole(1)] as Stereo, facts.stretches, FILM_SAMPLE_RATE) : null,
  };
}

const whole = (channel: 0 | 1): Float32Array => joinSamples(present(kept[channel]).splice(0));

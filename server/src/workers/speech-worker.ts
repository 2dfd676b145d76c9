import { parentPort } from "node:worker_threads";
import { waveformPeaks } from "@humming-tide/core/music";
import { SpeechFinder, withLessNoise } from "@humming-tide/core/sound";
import type { HeardSpeech, SpeechQuestion } from "./hear-speech.ts";

parentPort!.once("message", ({ sound, sampleRate, cleans }: SpeechQuestion) => {
  const finder = new SpeechFinder(sampleRate);
  finder.add(sound);
  const facts = finder.result();
  const samples = Float32Array.from(sound[0], (left, i) => 0.5 * (left + sound[1][i]!));
  parentPort!.postMessage({
    facts,
    peaks: waveformPeaks({ samples, sampleRate }),
    cleaned: cleans ? withLessNoise(sound, facts.stretches, sampleRate) : null,
  } satisfies HeardSpeech);
});

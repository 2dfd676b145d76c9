import type { MonoAudio } from "./audio.ts";

/** The waveform at drawing size: for each step the lowest and highest sample as a byte, -127 to 127. */
export interface WaveformPeaks {
  readonly stepSeconds: number;
  /** min, max, min, max … */
  readonly values: readonly number[];
}

const STEP_SECONDS = 0.01;

export function waveformPeaks({ samples, sampleRate }: MonoAudio): WaveformPeaks {
  const step = Math.round(STEP_SECONDS * sampleRate);
  const values: number[] = [];
  for (let from = 0; from < samples.length; from += step) {
    let low = 0;
    let high = 0;
    for (let i = from; i < Math.min(samples.length, from + step); i++) {
      low = Math.min(low, samples[i]!);
      high = Math.max(high, samples[i]!);
    }
    values.push(Math.round(Math.max(-1, low) * 127), Math.round(Math.min(1, high) * 127));
  }
  return { stepSeconds: step / sampleRate, values };
}

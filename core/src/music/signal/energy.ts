import type { Seconds } from "../../time/index.ts";
import type { MonoAudio } from "./audio.ts";

export interface EnergyCurve {
  readonly stepSeconds: Seconds;
  /** Root mean square of each step, 0 to 1 of full scale; the last step may be shorter. */
  readonly values: readonly number[];
}

const STEP_SECONDS = 0.1;
/** Softer than this in full scale, a file has no music at all: -70 dB. */
export const SILENT_LEVEL = 10 ** (-70 / 20);

/**
 * How loud a song is over time: the root mean square of each step of samples, from 0 to 1.
 * O(samples).
 */
export function energyCurve({ samples, sampleRate }: MonoAudio): EnergyCurve {
  const step = Math.round(STEP_SECONDS * sampleRate);
  const values: number[] = [];
  for (let from = 0; from < samples.length; from += step) {
    const to = Math.min(samples.length, from + step);
    let sum = 0;
    for (let i = from; i < to; i++) sum += samples[i]! * samples[i]!;
    values.push(Math.round(Math.sqrt(sum / (to - from)) * 1e5) / 1e5);
  }
  return { stepSeconds: STEP_SECONDS, values };
}

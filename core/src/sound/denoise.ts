import FFT from "fft.js";
import { itemAt } from "../presence/index.ts";
import type { Stereo } from "./sample-source.ts";
import type { SpokenStretch } from "./speech.ts";

/** 43 ms at 48 kHz: long enough to tell a hum from a voice, short enough to follow one. */
const WINDOW = 2048;
const HOP = WINDOW / 4;
/** Noise is taken down by no more than this: what is left sounds like the room, not like a hole. */
const FLOOR_GAIN = 10 ** (-12 / 20);
/** Noise sways: what is only so much above its mean is still noise. */
const OVER_ESTIMATE = 3;
/** Within a few windows a part that was speech becomes noise again; it becomes speech at once. */
const RELEASE_SHARE = 0.35;
/**
 * Noise is learned from pauses where there are so many windows of them, else from the quietest
 * tenth of each part.
 */
const LEAST_PAUSE_WINDOWS = 12;
const QUIET_SHARE = 0.1;

/**
 * The same sound with its steady noise taken down by up to 12 dB, part of the spectrum by part:
 * spectral subtraction after Boll (1979) with a floor and a Wiener gain, smoothed over time and
 * neighbouring parts. `stretches` tell where someone speaks: between them there is noise alone.
 * Length and time stay. O(samples log window); memory: that of the sound once more.
 */
export function denoise(sound: Stereo, stretches: readonly SpokenStretch[], sampleRate: number): Stereo {
  const left = denoiseChannel(sound[0], stretches, sampleRate);
  // One microphone is on both sides.
  const isMono = sound[0].every((sample, i) => sample === sound[1][i]);
  return [left, isMono ? left.slice() : denoiseChannel(sound[1], stretches, sampleRate)];
}

const ANALYSIS = Float64Array.from({ length: WINDOW }, (_, i) =>
  Math.sqrt(0.5 - 0.5 * Math.cos((2 * Math.PI * i) / WINDOW)),
);
/** Hann windows at three quarters of overlap add up to two. */
const OVERLAP_SUM = 2;

function denoiseChannel(samples: Float32Array, stretches: readonly SpokenStretch[], sampleRate: number): Float32Array {
  const fft = new FFT(WINDOW);
  const bins = WINDOW / 2 + 1;
  const count = Math.ceil((samples.length + WINDOW) / HOP);
  const input = new Float64Array(WINDOW);
  const spectrum = fft.createComplexArray();
  const transform = (window: number): void => {
    const first = window * HOP - WINDOW + HOP;
    for (let i = 0; i < WINDOW; i++) input[i] = ANALYSIS[i]! * (samples[first + i] ?? 0);
    fft.realTransform(spectrum, input);
  };
  const power = new Float64Array(bins);
  const powerOf = (window: number): Float64Array => {
    transform(window);
    for (let k = 0; k < bins; k++) power[k] = spectrum[2 * k]! ** 2 + spectrum[2 * k + 1]! ** 2;
    return power;
  };
  const noise = noisePowers(powerOf, count, pauseWindows(count, samples.length, stretches, sampleRate), bins);
  const gains = new Float64Array(bins).fill(1);
  const out = new Float32Array(samples.length + 3 * WINDOW);
  const back = fft.createComplexArray();
  for (let window = 0; window < count; window++) {
    powerOf(window);
    for (let k = 0; k < bins; k++) {
      const left = Math.max(0, power[k]! - OVER_ESTIMATE * noise[k]!);
      const wished = noise[k] === 0 ? 1 : Math.max(FLOOR_GAIN, left / (left + noise[k]!));
      gains[k] = wished > gains[k]! ? wished : gains[k]! + RELEASE_SHARE * (wished - gains[k]!);
    }
    fft.completeSpectrum(spectrum);
    for (let k = 0; k < bins; k++) {
      const gain = (gains[Math.max(0, k - 1)]! + 2 * gains[k]! + gains[Math.min(bins - 1, k + 1)]!) / 4;
      for (const at of k === 0 || k === bins - 1 ? [k] : [k, WINDOW - k]) {
        spectrum[2 * at]! *= gain;
        spectrum[2 * at + 1]! *= gain;
      }
    }
    fft.inverseTransform(back, spectrum);
    const first = window * HOP + HOP;
    for (let i = 0; i < WINDOW; i++) out[first + i]! += (ANALYSIS[i]! * back[2 * i]!) / OVERLAP_SUM;
  }
  return out.slice(WINDOW, WINDOW + samples.length);
}

/** Windows in which nobody speaks, those that reach over the recording's ends left out. */
function pauseWindows(
  count: number,
  length: number,
  stretches: readonly SpokenStretch[],
  sampleRate: number,
): number[] {
  return Array.from({ length: count }, (_, window) => window).filter((window) => {
    const start = window * HOP - WINDOW + HOP;
    const end = start + WINDOW;
    return (
      start >= 0 &&
      end <= length &&
      stretches.every(
        ({ startSeconds, endSeconds }) => end < startSeconds * sampleRate || start > endSeconds * sampleRate,
      )
    );
  });
}

/** So many windows are enough to know the quietest tenth of each part. */
const LOOKED_AT_WINDOWS = 600;

function noisePowers(
  powerOf: (window: number) => Float64Array,
  count: number,
  pauses: readonly number[],
  bins: number,
): Float64Array {
  if (pauses.length >= LEAST_PAUSE_WINDOWS) {
    const mean = new Float64Array(bins);
    for (const window of pauses) {
      const power = powerOf(window);
      for (let k = 0; k < bins; k++) mean[k]! += power[k]! / pauses.length;
    }
    return mean;
  }
  const step = Math.max(1, Math.floor(count / LOOKED_AT_WINDOWS));
  const seen: Float64Array[] = [];
  for (let window = 0; window < count; window += step) seen.push(powerOf(window).slice());
  // Too short to tell what is noise: nothing is.
  if (seen.length === 0) return new Float64Array(bins);
  return Float64Array.from({ length: bins }, (_, k) => {
    const sorted = seen.map((power) => itemAt(power, k)).sort((a, b) => a - b);
    return itemAt(sorted, Math.floor(QUIET_SHARE * (sorted.length - 1)));
  });
}

import FFT from "fft.js";
import type { Samples } from "../time/index.ts";

/**
 * By how many samples `heard` comes later than `expected` (negative: earlier), within plus or minus
 * `reach`, with the height of the match, 0 to 1 (normalised correlation); null where one of them is
 * silent. Both have the same length and rate. Whitened cross-correlation finds the place; the phase
 * transform of Knapp & Carter 1976 is sharp also for music that repeats. A parabola refines it
 * below a sample. Cost: two transforms of twice the length.
 */
export function soundLag(
  expected: Float32Array,
  heard: Float32Array,
  reach: number,
): { readonly samples: Samples; readonly match: number } | null {
  const length = Math.min(expected.length, heard.length);
  const energies = [energy(expected, length), energy(heard, length)] as const;
  if (energies[0] / length < SILENCE || energies[1] / length < SILENCE) return null;
  let size = 2;
  while (size < length + reach + 1) size *= 2;
  const fft = transformOf(size);
  const [a, b] = [transformed(fft, size, expected, length), transformed(fft, size, heard, length)];
  const product = new Float64Array(size * 2);
  for (let i = 0; i < size; i++) {
    const [ar, ai, br, bi] = [a[2 * i]!, a[2 * i + 1]!, b[2 * i]!, b[2 * i + 1]!];
    const real = br * ar + bi * ai;
    const imaginary = bi * ar - br * ai;
    // Half whitening: sharper than plain correlation, yet bins that hold only coding noise stay
    // quiet.
    const weight = Math.sqrt(Math.hypot(real, imaginary)) || 1;
    product[2 * i] = real / weight;
    product[2 * i + 1] = imaginary / weight;
  }
  const correlation = new Float64Array(size * 2);
  fft.inverseTransform(correlation, product);
  const at = (lag: number): number => correlation[2 * ((lag + size) % size)]!;
  let best = -reach;
  for (let lag = -reach; lag <= reach; lag++) if (at(lag) > at(best)) best = lag;
  const [left, middle, right] = [at(best - 1), at(best), at(best + 1)];
  const curvature = left - 2 * middle + right;
  const shift = curvature < 0 ? (0.5 * (left - right)) / curvature : 0;
  return {
    samples: best + Math.max(-0.5, Math.min(0.5, shift)),
    match: similarity(expected, heard, length, best, energies),
  };
}

/** The tables of a transform take as long as one: those of the last size are kept. */
let kept: { readonly size: number; readonly fft: FFT } | null = null;

function transformOf(size: number): FFT {
  if (kept?.size !== size) kept = { size, fft: new FFT(size) };
  return kept.fft;
}

/** Mean square below which there is nothing to compare: -70 dB. */
const SILENCE = 1e-7;

function energy(samples: Float32Array, length: number): number {
  let sum = 0;
  for (let i = 0; i < length; i++) sum += samples[i]! * samples[i]!;
  return sum;
}

function transformed(fft: FFT, size: number, samples: Float32Array, length: number): Float64Array {
  const input = new Float64Array(size);
  input.set(samples.subarray(0, length));
  const spectrum = new Float64Array(size * 2);
  fft.realTransform(spectrum, input);
  fft.completeSpectrum(spectrum);
  return spectrum;
}

function similarity(
  expected: Float32Array,
  heard: Float32Array,
  length: number,
  lag: number,
  energies: readonly [number, number],
): number {
  let sum = 0;
  for (let i = Math.max(0, lag); i < Math.min(length, length + lag); i++) sum += heard[i]! * expected[i - lag]!;
  return sum / Math.sqrt(energies[0] * energies[1]);
}

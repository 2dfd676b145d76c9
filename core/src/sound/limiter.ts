import { amplitude, decibels } from "./decibels.ts";
import type { Stereo } from "./sample-source.ts";
import { peakBetween } from "./true-peak.ts";

/**
 * Samples in a block, 1.3 ms at 48 kHz: the limiter decides once a block. Blocks count from the
 * film's first sample, so its work is the same wherever playing begins.
 */
export const LIMITER_BLOCK = 64;
/** Blocks before a peak at which the gain begins to fall, 5 ms: slow enough not to click. */
export const REACH = 4;
/**
 * How fast the gain rises again: within a beat, but not so fast that it follows the waves of a
 * bass.
 */
const RELEASE_DECIBELS_A_SECOND = 40;
/** After so many blocks an earlier gain has no effect: a reduction of 40 dB has been released. */
export const LIMITER_MEMORY_BLOCKS = 750;
/** Samples on each side that the filter of true peaks sees. */
export const PEAK_MARGIN = 12;
/** Blocks on each side of a stretch whose peaks affect its gain. */
export const LIMITER_MARGIN = 2 * REACH + 1;

/**
 * True peaks of both channels in each block. `sound` has `PEAK_MARGIN` samples more than its whole
 * blocks at either end. Peaks under `least` may be given as `least`. O(samples).
 */
export function blockPeaks(sound: Stereo, least = 0): Float32Array {
  const count = Math.floor((sound[0].length - 2 * PEAK_MARGIN) / LIMITER_BLOCK);
  const peaks = new Float32Array(Math.max(0, count));
  for (const channel of sound) {
    const samples = new Float64Array(channel);
    for (let block = 0; block < count; block++) {
      const start = PEAK_MARGIN + block * LIMITER_BLOCK;
      let peak = peaks[block]!;
      for (let i = start; i < start + LIMITER_BLOCK; i++) peak = Math.max(peak, Math.abs(samples[i]!));
      peaks[block] = peakBetween(samples, start + 5, start + LIMITER_BLOCK + 7, Math.max(least, peak));
    }
  }
  return peaks;
}

/**
 * The gain of a look-ahead limiter in decibels, 0 and less. `boundaries[i]` is the gain at the
 * start of block i + LIMITER_MARGIN of `peaks`; between two of them the gain is a straight line.
 * What a peak needs holds for all blocks within its reach. From there the level is released at an
 * even rate, and then averaged over the reach. So the gain is never above what any block needs.
 * `levels[i]` is the released level of block i + REACH, before averaging; `before` is the level
 * before the first. O(blocks).
 */
export function limiterDecibels(
  peaks: Float32Array,
  gainDecibels: number,
  ceilingDecibels: number,
  sampleRate: number,
  before = 0,
): { readonly boundaries: Float32Array; readonly levels: Float32Array } {
  const slope = (RELEASE_DECIBELS_A_SECOND * LIMITER_BLOCK) / sampleRate;
  const needs = Float32Array.from(peaks, (peak) =>
    peak > 0 ? Math.min(0, ceilingDecibels - decibels(peak) - gainDecibels) : 0,
  );
  // From here on index i of an array is block i + REACH of the one before it.
  const levels = new Float32Array(Math.max(0, needs.length - 2 * REACH));
  let level = before;
  for (let i = 0; i < levels.length; i++) {
    let lowest = 0;
    for (let k = i; k <= i + 2 * REACH; k++) lowest = Math.min(lowest, needs[k]!);
    // Rounded as it is kept, so that going on and beginning again come to the same.
    level = Math.fround(Math.min(lowest, level + slope));
    levels[i] = level;
  }
  const means = new Float32Array(Math.max(0, levels.length - 2 * REACH));
  for (let i = 0; i < means.length; i++) {
    let sum = 0;
    for (let k = i; k <= i + 2 * REACH; k++) sum += levels[k]!;
    means[i] = sum / (2 * REACH + 1);
  }
  const boundaries = new Float32Array(Math.max(0, means.length - 1));
  for (let i = 0; i < boundaries.length; i++) boundaries[i] = Math.min(means[i]!, means[i + 1]!);
  return { boundaries, levels };
}

/**
 * Multiplies whole blocks by a gain and the limiter's lines between boundaries (one more than
 * blocks), in place.
 */
export function applyLimiter(
  samples: Float32Array,
  firstBlock: number,
  boundaries: Float32Array,
  gainDecibels: number,
): void {
  const gain = amplitude(gainDecibels);
  for (let at = 0; at < samples.length; at += LIMITER_BLOCK) {
    const block = firstBlock + at / LIMITER_BLOCK;
    const from = gain * amplitude(boundaries[block]!);
    const step = (gain * amplitude(boundaries[block + 1]!) - from) / LIMITER_BLOCK;
    const end = Math.min(samples.length, at + LIMITER_BLOCK);
    if (step === 0 && from === 1) continue;
    for (let i = at; i < end; i++) samples[i]! *= from + step * (i - at);
  }
}

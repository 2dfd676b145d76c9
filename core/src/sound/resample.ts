import { kaiserSinc } from "../numeric/index.ts";
import type { SampleSource, Stereo } from "./sample-source.ts";

/** Samples to each side of the one that is computed. */
const REACH = 24;
const PHASES = 512;
/** Kaiser window's shape: stop band 80 dB down. */
const KAISER_BETA = 8;

let table: Float32Array | null = null;

/** Windowed sinc at PHASES + 1 places between two samples, rows of 2 * REACH weights. */
function kernel(): Float32Array {
  if (table) return table;
  table = new Float32Array((PHASES + 1) * 2 * REACH);
  for (let phase = 0; phase <= PHASES; phase++) {
    for (let tap = 0; tap < 2 * REACH; tap++) {
      table[phase * 2 * REACH + tap] = kaiserSinc(tap - REACH + 1 - phase / PHASES, REACH, KAISER_BETA);
    }
  }
  return table;
}

/**
 * `count` frames of a source, read from the (fractional) frame `from` on with a step of `step`
 * frames: tape speed, pitch goes with tempo. For steps near 1; nothing is filtered out before a
 * step above it. Band-limited interpolation (Smith & Gossett 1984). O(count * 48).
 */
export function resampled(source: SampleSource, from: number, step: number, count: number): Stereo {
  const weights = kernel();
  const first = Math.floor(from) - REACH + 1;
  const last = Math.floor(from + (count - 1) * step) + REACH;
  const piece = source.read(first, last - first + 1);
  const channel = (samples: Float32Array): Float32Array => {
    const out = new Float32Array(count);
    for (let i = 0; i < count; i++) {
      const at = from + i * step - first;
      const whole = Math.floor(at);
      const phase = (at - whole) * PHASES;
      const row = Math.floor(phase);
      const share = phase - row;
      const [a, b] = [row * 2 * REACH, (row + 1) * 2 * REACH];
      const start = whole - REACH + 1;
      let sum = 0;
      for (let tap = 0; tap < 2 * REACH; tap++) {
        sum += samples[start + tap]! * (weights[a + tap]! + share * (weights[b + tap]! - weights[a + tap]!));
      }
      out[i] = sum;
    }
    return out;
  };
  return [channel(piece[0]), channel(piece[1])];
}

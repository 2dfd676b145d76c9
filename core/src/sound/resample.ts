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
  const top = besselI0(KAISER_BETA);
  for (let phase = 0; phase <= PHASES; phase++) {
    for (let tap = 0; tap < 2 * REACH; tap++) {
      const x = tap - REACH + 1 - phase / PHASES;
      const inside = 1 - (x / REACH) ** 2;
      const window = inside > 0 ? besselI0(KAISER_BETA * Math.sqrt(inside)) / top : 0;
      const sinc = Math.abs(x) < 1e-9 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
      table[phase * 2 * REACH + tap] = sinc * window;
    }
  }
  return table;
}

/** Modified Bessel function of the first kind, order 0, by its power series. */
function besselI0(x: number): number {
  let [sum, term] = [1, 1];
  for (let k = 1; term > sum * 1e-12; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/**
 * `count` frames of a source, read from the (fractional) frame `from` on with a step of `step` frames: tape speed, pitch goes with tempo. For
 * steps near 1; nothing is filtered out before a step above it. Band-limited interpolation (Smith & Gossett 1984). O(count * 48).
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

import { FRAME_SECONDS, HOP_SECONDS } from "./audio.ts";
import { type Chroma, PITCH_CLASSES } from "./chroma.ts";
import { ONSET_RANGES, type OnsetStrength } from "./onset-strength.ts";
import type { Spectrogram } from "./spectrogram.ts";

/** Parts of a bar that are described apart, so that two bars with the same chords in another order differ. */
const PARTS = 4;
const TIMBRE_BANDS = 12;
/** What each kind of description weighs against the others. */
const WEIGHTS = { treble: 1, bass: 0.7, rhythm: 0.7, timbre: 0.8 };

/** How bars sound: one row of numbers a bar, made so that the dot product of two rows is their likeness, -1 to 1. */
export interface BarFeatures {
  readonly barCount: number;
  readonly length: number;
  readonly rows: Float32Array;
}

/**
 * Describes the stretches between neighbouring times by harmony, bass, rhythm and timbre in four parts each. Rhythm and
 * timbre are taken against the song's mean, or every bar would be like every other. `starts` rise; the last one ends the last bar.
 * Cost: one pass over spectrogram and chroma.
 */
export function barFeatures(
  starts: readonly number[],
  spectrum: Spectrogram,
  onsets: OnsetStrength,
  harmony: Chroma,
): BarFeatures {
  const barCount = Math.max(0, starts.length - 1);
  const timbre = timbreBands(spectrum);
  const kinds = [
    { width: PITCH_CLASSES, source: harmony.treble, step: FRAME_SECONDS, centred: false, weight: WEIGHTS.treble },
    { width: PITCH_CLASSES, source: harmony.bass, step: FRAME_SECONDS, centred: false, weight: WEIGHTS.bass },
    { width: ONSET_RANGES, source: onsets.ranges, step: HOP_SECONDS, centred: true, weight: WEIGHTS.rhythm },
    { width: TIMBRE_BANDS, source: timbre, step: HOP_SECONDS, centred: true, weight: WEIGHTS.timbre },
  ];
  const length = kinds.reduce((sum, kind) => sum + kind.width * PARTS, 0);
  const rows = new Float32Array(barCount * length);
  const total = Math.sqrt(kinds.reduce((sum, kind) => sum + kind.weight, 0));
  let offset = 0;
  for (const { width, source, step, centred, weight } of kinds) {
    const size = width * PARTS;
    for (let bar = 0; bar < barCount; bar++) {
      const start = starts[bar]!;
      const span = starts[bar + 1]! - start;
      for (let part = 0; part < PARTS; part++) {
        const from = Math.round((start + (span * part) / PARTS) / step);
        const to = Math.max(from + 1, Math.round((start + (span * (part + 1)) / PARTS) / step));
        meanInto(rows, bar * length + offset + part * width, source, width, from, to);
      }
    }
    if (centred) centre(rows, barCount, length, offset, size);
    for (let bar = 0; bar < barCount; bar++) {
      scaleTo(rows, bar * length + offset, size, Math.sqrt(weight) / total);
    }
    offset += size;
  }
  return { barCount, length, rows };
}

/** Likeness of bar a and bar b, -1 to 1; 1 for the same sound. */
export function barLikeness(features: BarFeatures, a: number, b: number): number {
  const { rows, length } = features;
  let sum = 0;
  for (let i = 0; i < length; i++) sum += rows[a * length + i]! * rows[b * length + i]!;
  return sum;
}

function timbreBands({ bands, bandCount, hopCount }: Spectrogram): Float32Array {
  const out = new Float32Array(hopCount * TIMBRE_BANDS);
  for (let hop = 0; hop < hopCount; hop++) {
    for (let t = 0; t < TIMBRE_BANDS; t++) {
      const first = Math.floor((t * bandCount) / TIMBRE_BANDS);
      const end = Math.floor(((t + 1) * bandCount) / TIMBRE_BANDS);
      let sum = 0;
      for (let band = first; band < end; band++) sum += bands[hop * bandCount + band]!;
      out[hop * TIMBRE_BANDS + t] = sum / (end - first);
    }
  }
  return out;
}

function meanInto(rows: Float32Array, at: number, source: Float32Array, width: number, from: number, to: number): void {
  const last = Math.min(to, source.length / width);
  for (let row = Math.max(0, from); row < last; row++) {
    for (let i = 0; i < width; i++) rows[at + i]! += source[row * width + i]! / (to - from);
  }
}

function centre(rows: Float32Array, barCount: number, length: number, offset: number, size: number): void {
  for (let i = offset; i < offset + size; i++) {
    let mean = 0;
    for (let bar = 0; bar < barCount; bar++) mean += rows[bar * length + i]! / barCount;
    for (let bar = 0; bar < barCount; bar++) rows[bar * length + i]! -= mean;
  }
}

function scaleTo(rows: Float32Array, from: number, size: number, length: number): void {
  let sum = 0;
  for (let i = from; i < from + size; i++) sum += rows[i]! * rows[i]!;
  const scale = sum > 1e-9 ? length / Math.sqrt(sum) : 0;
  for (let i = from; i < from + size; i++) rows[i]! *= scale;
}

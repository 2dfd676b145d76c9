import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import {
  type Chroma,
  FRAME_SECONDS,
  HOP_SECONDS,
  ONSET_RANGES,
  type OnsetStrength,
  PITCH_CLASSES,
  type Spectrogram,
} from "../signal/index.ts";

/**
 * How a song sounds from tenth to tenth of a second, small enough to be kept with its analysis:
 * harmony, bass, rhythm and timbre, from which bars are compared whichever bars a person makes of
 * them.
 */
export interface Texture {
  readonly stepSeconds: Seconds;
  /**
   * Bytes, base64: rows of TEXTURE_WIDTH values a step, each column scaled so that 255 is its
   * largest value in the song.
   */
  readonly values: string;
}

const TIMBRE_BANDS = 12;
/**
 * Columns of a row: pitch classes of treble and bass, onset strength in ranges, loudness in bands.
 */
export const TEXTURE_COLUMNS = [
  { name: "treble", width: PITCH_CLASSES },
  { name: "bass", width: PITCH_CLASSES },
  { name: "rhythm", width: ONSET_RANGES },
  { name: "timbre", width: TIMBRE_BANDS },
] as const;
export const TEXTURE_WIDTH = TEXTURE_COLUMNS.reduce((sum, { width }) => sum + width, 0);

const STEP_SECONDS = 0.1;

/** Means over steps of a tenth of a second. Cost: one pass over spectrogram, onsets and chroma. */
export function texture(spectrum: Spectrogram, onsets: OnsetStrength, harmony: Chroma): Texture {
  const steps = Math.ceil((spectrum.hopCount * HOP_SECONDS) / STEP_SECONDS);
  const rows = new Float32Array(steps * TEXTURE_WIDTH);
  const sources = [
    { source: harmony.treble, width: PITCH_CLASSES, perStep: STEP_SECONDS / FRAME_SECONDS },
    { source: harmony.bass, width: PITCH_CLASSES, perStep: STEP_SECONDS / FRAME_SECONDS },
    { source: onsets.ranges, width: ONSET_RANGES, perStep: STEP_SECONDS / HOP_SECONDS },
    { source: timbreBands(spectrum), width: TIMBRE_BANDS, perStep: STEP_SECONDS / HOP_SECONDS },
  ];
  let column = 0;
  for (const { source, width, perStep } of sources) {
    const count = Math.round(perStep);
    const rowCount = source.length / width;
    for (let step = 0; step < steps; step++) {
      const end = Math.min(rowCount, (step + 1) * count);
      for (let row = step * count; row < end; row++) {
        for (let i = 0; i < width; i++)
          rows[step * TEXTURE_WIDTH + column + i]! += itemAt(source, row * width + i) / count;
      }
    }
    column += width;
  }
  return { stepSeconds: STEP_SECONDS, values: packed(rows, steps) };
}

function packed(rows: Float32Array, steps: number): string {
  const largest = new Float32Array(TEXTURE_WIDTH);
  for (let i = 0; i < rows.length; i++) {
    const column = i % TEXTURE_WIDTH;
    if (itemAt(rows, i) > itemAt(largest, column)) largest[column] = itemAt(rows, i);
  }
  // Columns of one kind share a scale, or a pitch class that hardly sounds would count as much as
  // any other.
  let column = 0;
  for (const { width } of TEXTURE_COLUMNS) {
    const shared = Math.max(...largest.subarray(column, column + width), 1e-9);
    largest.fill(shared, column, column + width);
    column += width;
  }
  const bytes: string[] = [];
  for (let step = 0; step < steps; step++) {
    const row = rows.subarray(step * TEXTURE_WIDTH, (step + 1) * TEXTURE_WIDTH);
    bytes.push(
      String.fromCharCode(...row.map((value, i) => Math.round((Math.max(0, value) / itemAt(largest, i)) * 255))),
    );
  }
  return btoa(bytes.join(""));
}

/** The rows of a texture, 0 to 255. */
export function textureRows({ values }: Texture): Uint8Array {
  return Uint8Array.from(atob(values), (character) => character.charCodeAt(0));
}

function timbreBands({ bands, bandCount, hopCount }: Spectrogram): Float32Array {
  const out = new Float32Array(hopCount * TIMBRE_BANDS);
  for (let hop = 0; hop < hopCount; hop++) {
    for (let t = 0; t < TIMBRE_BANDS; t++) {
      const first = Math.floor((t * bandCount) / TIMBRE_BANDS);
      const end = Math.floor(((t + 1) * bandCount) / TIMBRE_BANDS);
      let sum = 0;
      for (let band = first; band < end; band++) sum += itemAt(bands, hop * bandCount + band);
      out[hop * TIMBRE_BANDS + t] = sum / (end - first);
    }
  }
  return out;
}

import { itemAt } from "../../presence/index.ts";
import { TEXTURE_COLUMNS, TEXTURE_WIDTH, type Texture, textureRows } from "./texture.ts";

/**
 * Parts of a bar that are described apart, so that two bars with the same chords in another order
 * differ.
 */
const PARTS = 4;
/**
 * What each kind of description weighs against the others, and whether it is taken against the
 * song's mean.
 */
const KINDS: Readonly<Record<(typeof TEXTURE_COLUMNS)[number]["name"], { weight: number; centred: boolean }>> = {
  treble: { weight: 1, centred: false },
  bass: { weight: 0.7, centred: false },
  rhythm: { weight: 0.7, centred: true },
  timbre: { weight: 0.8, centred: true },
};

/**
 * How bars sound: one row of numbers a bar, made so that the dot product of two rows is their
 * likeness, -1 to 1.
 */
export interface BarFeatures {
  readonly barCount: number;
  readonly length: number;
  readonly rows: Float32Array;
}

/**
 * Describes the stretches between neighbouring times by harmony, bass, rhythm and timbre in four
 * parts each. Rhythm and timbre are taken against the song's mean, or every bar would be like every
 * other. `starts` rise; the last one ends the last bar. Cost: one pass over the texture.
 */
export function barFeatures(starts: readonly number[], texture: Texture): BarFeatures {
  const barCount = Math.max(0, starts.length - 1);
  const source = textureRows(texture);
  const length = TEXTURE_WIDTH * PARTS;
  const rows = new Float32Array(barCount * length);
  const total = Math.sqrt(Object.values(KINDS).reduce((sum, kind) => sum + kind.weight, 0));
  let column = 0;
  let offset = 0;
  for (const { name, width } of TEXTURE_COLUMNS) {
    const { weight, centred } = KINDS[name];
    const size = width * PARTS;
    for (let bar = 0; bar < barCount; bar++) {
      const start = itemAt(starts, bar);
      const span = itemAt(starts, bar + 1) - start;
      for (let part = 0; part < PARTS; part++) {
        const from = (start + (span * part) / PARTS) / texture.stepSeconds;
        const to = (start + (span * (part + 1)) / PARTS) / texture.stepSeconds;
        meanInto(rows, bar * length + offset + part * width, source, column, width, from, to);
      }
    }
    if (centred) centre(rows, barCount, length, offset, size);
    for (let bar = 0; bar < barCount; bar++) {
      scaleTo(rows, bar * length + offset, size, Math.sqrt(weight) / total);
    }
    column += width;
    offset += size;
  }
  return { barCount, length, rows };
}

/** Likeness of bar a and bar b, -1 to 1; 1 for the same sound. */
export function barLikeness(features: BarFeatures, a: number, b: number): number {
  const { rows, length } = features;
  let sum = 0;
  for (let i = 0; i < length; i++) sum += itemAt(rows, a * length + i) * itemAt(rows, b * length + i);
  return sum;
}

/** Mean of some columns between two steps, which may lie inside a row: its share counts. */
function meanInto(
  rows: Float32Array,
  at: number,
  source: Uint8Array,
  column: number,
  width: number,
  from: number,
  to: number,
): void {
  const last = Math.min(Math.ceil(to), source.length / TEXTURE_WIDTH);
  for (let row = Math.max(0, Math.floor(from)); row < last; row++) {
    const share = (Math.min(to, row + 1) - Math.max(from, row)) / (to - from);
    for (let i = 0; i < width; i++) rows[at + i]! += itemAt(source, row * TEXTURE_WIDTH + column + i) * share;
  }
}

function centre(rows: Float32Array, barCount: number, length: number, offset: number, size: number): void {
  for (let i = offset; i < offset + size; i++) {
    let mean = 0;
    for (let bar = 0; bar < barCount; bar++) mean += itemAt(rows, bar * length + i) / barCount;
    for (let bar = 0; bar < barCount; bar++) rows[bar * length + i]! -= mean;
  }
}

function scaleTo(rows: Float32Array, from: number, size: number, length: number): void {
  let sum = 0;
  for (let i = from; i < from + size; i++) sum += itemAt(rows, i) * itemAt(rows, i);
  const scale = sum > 1e-9 ? length / Math.sqrt(sum) : 0;
  for (let i = from; i < from + size; i++) rows[i]! *= scale;
}

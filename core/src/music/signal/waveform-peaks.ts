import { itemAt, lastOf } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import type { MonoAudio } from "./audio.ts";

/**
 * The waveform at drawing sizes: lowest and highest sample of stretches of 16, 64, 256 … samples,
 * as bytes, -127 to 127.
 */
export interface WaveformPeaks {
  readonly sampleRate: number;
  /** From fine to coarse. */
  readonly levels: readonly PeakLevel[];
}

interface PeakLevel {
  readonly samplesPerStep: number;
  /** min, max, min, max … */
  readonly values: Int8Array;
}

const FINEST_STEP = 16;
const LEVELS = 6;
const FACTOR = 4;

/**
 * Made once for a song; a picture of any stretch then costs as many steps as it has pixels.
 * O(samples).
 */
export function waveformPeaks({ samples, sampleRate }: MonoAudio): WaveformPeaks {
  const finest = new Int8Array(2 * Math.ceil(samples.length / FINEST_STEP));
  for (let step = 0; step < finest.length / 2; step++) {
    let [low, high] = [0, 0];
    const end = Math.min(samples.length, (step + 1) * FINEST_STEP);
    for (let i = step * FINEST_STEP; i < end; i++) {
      const sample = samples[i]!;
      if (sample < low) low = sample;
      else if (sample > high) high = sample;
    }
    finest[2 * step] = Math.round(Math.max(-1, low) * 127);
    finest[2 * step + 1] = Math.round(Math.min(1, high) * 127);
  }
  const levels: PeakLevel[] = [{ samplesPerStep: FINEST_STEP, values: finest }];
  while (levels.length < LEVELS) {
    const { samplesPerStep, values } = lastOf(levels);
    levels.push({ samplesPerStep: samplesPerStep * FACTOR, values: coarser(values) });
  }
  return { sampleRate, levels };
}

function coarser(values: Int8Array): Int8Array {
  const out = new Int8Array(2 * Math.ceil(values.length / 2 / FACTOR));
  values.forEach((value, i) => {
    const at = 2 * Math.floor(i / 2 / FACTOR) + (i % 2);
    out[at] = i % 2 === 0 ? Math.min(value, out[at]!) : Math.max(value, out[at]!);
  });
  return out;
}

/**
 * Lowest and highest sample between two times, from the coarsest level whose steps are no longer
 * than that; [0, 0] outside of the song.
 */
export function extremesBetween(
  peaks: WaveformPeaks,
  fromSeconds: Seconds,
  toSeconds: Seconds,
): [low: number, high: number] {
  const span = (toSeconds - fromSeconds) * peaks.sampleRate;
  const level = peaks.levels.findLast(({ samplesPerStep }) => samplesPerStep <= span) ?? itemAt(peaks.levels, 0);
  const { values, samplesPerStep } = level;
  const first = Math.max(0, Math.floor((fromSeconds * peaks.sampleRate) / samplesPerStep));
  const end = Math.min(
    values.length / 2,
    Math.max(first + 1, Math.ceil((toSeconds * peaks.sampleRate) / samplesPerStep)),
  );
  let [low, high] = [0, 0];
  for (let step = first; step < end; step++) {
    low = Math.min(low, values[2 * step]!);
    high = Math.max(high, values[2 * step + 1]!);
  }
  return [low, high];
}

/**
 * Bytes of a peaks file: "TIDE", sample rate and level count as 32-bit numbers, then for each level
 * its step and count of values, then all values. Little-endian.
 */
export function packPeaks({ sampleRate, levels }: WaveformPeaks): Uint8Array {
  const head = 12 + 8 * levels.length;
  const bytes = new Uint8Array(head + levels.reduce((sum, { values }) => sum + values.length, 0));
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, sampleRate, true);
  view.setUint32(8, levels.length, true);
  let at = head;
  for (const [i, { samplesPerStep, values }] of levels.entries()) {
    view.setUint32(12 + 8 * i, samplesPerStep, true);
    view.setUint32(16 + 8 * i, values.length, true);
    bytes.set(new Uint8Array(values.buffer, values.byteOffset, values.length), at);
    at += values.length;
  }
  return bytes;
}

const MAGIC = 0x45_44_49_54;

/**
 * Reads what `packPeaks` wrote; the values stay where they are. Throws a RangeError for anything
 * else.
 */
export function unpackPeaks(bytes: ArrayBuffer): WaveformPeaks {
  const view = new DataView(bytes);
  if (bytes.byteLength < 12 || view.getUint32(0, true) !== MAGIC) throw new RangeError("This is no file of peaks.");
  const levelCount = view.getUint32(8, true);
  let at = 12 + 8 * levelCount;
  const levels = Array.from({ length: levelCount }, (_, i): PeakLevel => {
    const length = view.getUint32(16 + 8 * i, true);
    const values = new Int8Array(bytes, at, length);
    at += length;
    return { samplesPerStep: view.getUint32(12 + 8 * i, true), values };
  });
  return { sampleRate: view.getUint32(4, true), levels };
}

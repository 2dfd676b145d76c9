import { FRAME_SECONDS, type MonoAudio } from "./audio.ts";
import { hannWindow, MagnitudeSpectrum, paddedBy } from "./magnitude-spectrum.ts";
import { decimate } from "./resample.ts";

export const PITCH_CLASSES = 12;

/** From half the rate of the analysis to 5.5 kHz. */
const DECIMATION = 4;
/**
 * 186 ms at 5.5 kHz: 5.4 Hz from bin to bin, enough to tell semitones apart from about 100 Hz on.
 */
const WINDOW_SAMPLES = 1024;
const LOWEST_HZ = 110;
const HIGHEST_HZ = 2100;
const BASS_LOWEST_HZ = 38;
const BASS_HIGHEST_HZ = 220;

/**
 * Frame k is centred on k * FRAME_SECONDS; rows of 12 pitch classes, C first, each row of length 1
 * or all zero.
 */
export interface Chroma {
  readonly frameCount: number;
  readonly treble: Float32Array;
  readonly bass: Float32Array;
}

/**
 * Which pitch classes sound, every 20 ms: the spectral peaks of a long window, square root of their
 * magnitude, folded into one octave. `halved` is at half the rate of the analysis. Cost: one window
 * of 1024 per 20 ms. Silent frames are zero.
 */
export function chroma(halved: MonoAudio): Chroma {
  const { samples, sampleRate } = halved;
  const frameCount = Math.ceil(samples.length / sampleRate / FRAME_SECONDS);
  const low = paddedBy(decimate(samples, DECIMATION), WINDOW_SAMPLES / 2);
  const rate = sampleRate / DECIMATION;
  const spectrum = new MagnitudeSpectrum(hannWindow(WINDOW_SAMPLES, 1));
  const { magnitudes } = spectrum;
  const pitchClass = pitchClassOfBins(rate / WINDOW_SAMPLES);
  const [firstBin, lastBin] = binRange(rate, LOWEST_HZ, HIGHEST_HZ);
  const [firstBass, lastBass] = binRange(rate, BASS_LOWEST_HZ, BASS_HIGHEST_HZ);
  const treble = new Float32Array(frameCount * PITCH_CLASSES);
  const bass = new Float32Array(frameCount * PITCH_CLASSES);
  for (let frame = 0; frame < frameCount; frame++) {
    spectrum.take(low, Math.round(frame * FRAME_SECONDS * rate));
    const row = frame * PITCH_CLASSES;
    for (let bin = firstBass; bin <= lastBin; bin++) {
      const value = magnitudes[bin]!;
      // Only peaks: the skirts of a loud tone must not be taken for its neighbours.
      if (value <= magnitudes[bin - 1]! || value < magnitudes[bin + 1]!) continue;
      const pitch = row + pitchClass[bin]!;
      if (bin >= firstBin) treble[pitch]! += Math.sqrt(value);
      if (bin <= lastBass) bass[pitch]! += Math.sqrt(value);
    }
    toLengthOne(treble, row);
    toLengthOne(bass, row);
  }
  return { frameCount, treble, bass };
}

/**
 * A row of 12 in a longer array, scaled to Euclidean length 1; rows of almost nothing become zero.
 */
function toLengthOne(rows: Float32Array, from: number): void {
  let sum = 0;
  for (let i = from; i < from + PITCH_CLASSES; i++) sum += rows[i]! * rows[i]!;
  const scale = sum > 1e-4 ? 1 / Math.sqrt(sum) : 0;
  for (let i = from; i < from + PITCH_CLASSES; i++) rows[i]! *= scale;
}

function binRange(rate: number, lowestHz: number, highestHz: number): [number, number] {
  return [Math.ceil((lowestHz * WINDOW_SAMPLES) / rate), Math.floor((highestHz * WINDOW_SAMPLES) / rate)];
}

function pitchClassOfBins(binHz: number): Int8Array {
  return Int8Array.from({ length: WINDOW_SAMPLES / 2 }, (_, bin) => {
    // MIDI note number, A4 = 69 = 440 Hz; note 60 is a C.
    const note = Math.round(69 + 12 * Math.log2(Math.max(1, bin * binHz) / 440));
    return ((note % PITCH_CLASSES) + PITCH_CLASSES) % PITCH_CLASSES;
  });
}

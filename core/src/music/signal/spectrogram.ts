import { HOP_SECONDS, type MonoAudio } from "./audio.ts";
import { hannWindow, MagnitudeSpectrum, paddedBy } from "./magnitude-spectrum.ts";

const WINDOW_SAMPLES = 1024;
const LOWEST_HZ = 30;
const HIGHEST_HZ = 10_000;
const BANDS_PER_OCTAVE = 24;
/**
 * Levels are taken as if the song's loud stretches had this root mean square, so that a quiet copy
 * is heard alike.
 */
const REFERENCE_LEVEL = 0.1;
/** Share of the tenths of a second that are softer than what counts as a loud stretch. */
const LOUD_SHARE = 0.9;

/** Hop k is centred on k * HOP_SECONDS; rows lie behind one another. */
export interface Spectrogram {
  readonly hopCount: number;
  readonly bandCount: number;
  /** log10(1 + magnitude) per hop and band, low to high. */
  readonly bands: Float32Array;
  /** Centre of each band in hertz. */
  readonly bandHz: Float32Array;
}

/**
 * Logarithmic band spectrogram: 24 triangular bands an octave on a 46 ms Hann window every 10 ms,
 * of the sound brought to a reference level. After Böck & Widmer, "Maximum filter vibrato
 * suppression for onset detection" (DAFx 2013). `halved` is at half the rate of the analysis. Cost:
 * one window of 1024 per 10 ms. Empty audio gives no hops.
 */
export function spectrogram(halved: MonoAudio): Spectrogram {
  const { samples, sampleRate } = halved;
  const hopCount = Math.ceil(samples.length / sampleRate / HOP_SECONDS);
  const gain = REFERENCE_LEVEL / loudLevel(halved);
  const spectrum = new MagnitudeSpectrum(hannWindow(WINDOW_SAMPLES, gain));
  const filters = triangularFilters(sampleRate);
  const { bandCount, bandHz } = filters;
  const bands = new Float32Array(hopCount * bandCount);
  const padded = paddedBy(samples, WINDOW_SAMPLES / 2);
  for (let hop = 0; hop < hopCount; hop++) {
    spectrum.take(padded, Math.round(hop * HOP_SECONDS * sampleRate));
    takeBands(bands, hop * bandCount, spectrum.magnitudes, filters);
  }
  return { hopCount, bandCount, bands, bandHz };
}

/** A function of its own because it is compiled best that way. */
function takeBands(bands: Float32Array, row: number, magnitude: Float64Array, filters: Filters): void {
  const { bandCount, firstBins, firstWeights, weights } = filters;
  for (let band = 0; band < bandCount; band++) {
    const firstBin = firstBins[band]!;
    const from = firstWeights[band]!;
    const count = firstWeights[band + 1]! - from;
    let sum = 0;
    for (let i = 0; i < count; i++) sum += weights[from + i]! * magnitude[firstBin + i]!;
    bands[row + band] = Math.log10(1 + sum);
  }
}

/** Root mean square that nine in ten of the song's tenths of a second do not exceed; never 0. */
function loudLevel({ samples, sampleRate }: MonoAudio): number {
  const step = Math.round(sampleRate / 10);
  const levels: number[] = [];
  for (let from = 0; from < samples.length; from += step) {
    const to = Math.min(samples.length, from + step);
    let sum = 0;
    for (let i = from; i < to; i++) sum += samples[i]! * samples[i]!;
    levels.push(Math.sqrt(sum / (to - from)));
  }
  levels.sort((a, b) => a - b);
  return Math.max(1e-5, levels[Math.floor(levels.length * LOUD_SHARE)] ?? 0);
}

/**
 * Triangles over bins, all weights behind one another: band b has those from firstWeights[b] up to
 * firstWeights[b + 1].
 */
interface Filters {
  readonly bandCount: number;
  readonly bandHz: Float32Array;
  readonly firstBins: Int32Array;
  readonly firstWeights: Int32Array;
  readonly weights: Float64Array;
}

function triangularFilters(sampleRate: number): Filters {
  const binHz = sampleRate / WINDOW_SAMPLES;
  const highest = Math.min(HIGHEST_HZ, sampleRate / 2 - binHz);
  const edges: number[] = [];
  for (let step = 0; ; step++) {
    const hz = LOWEST_HZ * 2 ** (step / BANDS_PER_OCTAVE);
    if (hz > highest) break;
    const bin = Math.round(hz / binHz);
    // Low bands are narrower than a bin: those that fall on the same bin are one band.
    if (bin > 0 && bin !== edges.at(-1)) edges.push(bin);
  }
  const bandCount = Math.max(0, edges.length - 2);
  const firstWeights = [0];
  const weights: number[] = [];
  for (let band = 0; band < bandCount; band++) {
    const [low, centre, high] = [edges[band]!, edges[band + 1]!, edges[band + 2]!];
    for (let bin = low + 1; bin < high; bin++) {
      weights.push(bin <= centre ? (bin - low) / (centre - low) : (high - bin) / (high - centre));
    }
    firstWeights.push(weights.length);
  }
  return {
    bandCount,
    bandHz: Float32Array.from({ length: bandCount }, (_, band) => edges[band + 1]! * binHz),
    firstBins: Int32Array.from({ length: bandCount }, (_, band) => edges[band]! + 1),
    firstWeights: Int32Array.from(firstWeights),
    weights: Float64Array.from(weights),
  };
}

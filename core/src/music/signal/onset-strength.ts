import type { Spectrogram } from "./spectrogram.ts";

/**
 * Edges in hertz of the ranges in which onsets are counted apart; the first starts at 0, the last
 * is open.
 */
const RANGE_EDGES_HZ = [60, 100, 160, 250, 400, 640, 1000, 1600, 2500, 4000, 6500];
export const ONSET_RANGES = RANGE_EDGES_HZ.length + 1;

export interface OnsetStrength {
  /**
   * Rise of level per hop and range: rows of ONSET_RANGES, low to high, 0 and up, in units of log10
   * magnitude summed over bands.
   */
  readonly ranges: Float32Array;
  /**
   * How much begins at each hop, all ranges together; 0 and up, mean 1 over the song (all zeros in
   * silence).
   */
  readonly all: Float32Array;
}

/** The difference reaches back two hops: an onset is spread over the 46 ms window. */
const LAG_HOPS = 2;

/**
 * SuperFlux (Böck & Widmer 2013): the rise of each band against the loudest of itself and its two
 * neighbours two hops before. Vibrato only moves energy to the next band, so it does not count as
 * an onset.
 */
export function onsetStrength(spectrum: Spectrogram): OnsetStrength {
  const { hopCount, bandCount, bands, bandHz } = spectrum;
  const rangeOfBand = Int32Array.from(bandHz, (hz) => RANGE_EDGES_HZ.filter((edge) => edge <= hz).length);
  const ranges = new Float32Array(hopCount * ONSET_RANGES);
  const all = new Float32Array(hopCount);
  for (let hop = LAG_HOPS; hop < hopCount; hop++) {
    const now = hop * bandCount;
    const before = (hop - LAG_HOPS) * bandCount;
    const row = hop * ONSET_RANGES;
    let sum = 0;
    for (let band = 0; band < bandCount; band++) {
      let reference = bands[before + band]!;
      if (band > 0) reference = Math.max(reference, bands[before + band - 1]!);
      if (band + 1 < bandCount) reference = Math.max(reference, bands[before + band + 1]!);
      const rise = bands[now + band]! - reference;
      if (rise <= 0) continue;
      sum += rise;
      ranges[row + rangeOfBand[band]!]! += rise;
    }
    all[hop] = sum;
  }
  return { ranges, all: toMeanOne(all) };
}

function toMeanOne(curve: Float32Array): Float32Array {
  let sum = 0;
  for (const value of curve) sum += value;
  const mean = sum / curve.length;
  return mean > 1e-6 ? curve.map((value) => value / mean) : new Float32Array(curve.length);
}

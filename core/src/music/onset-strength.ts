import type { Spectrogram } from "./spectrogram.ts";

export interface OnsetStrength {
  /** How much begins at each hop, all bands together; 0 and up, mean 1 over the song (all zeros in silence). */
  readonly all: Float32Array;
  /** The same below 150 Hz: where kick drum and bass speak. */
  readonly low: Float32Array;
}

const LOW_HZ = 150;
/** The difference reaches back two hops: an onset is spread over the 46 ms window. */
const LAG_HOPS = 2;

/**
 * SuperFlux (Böck & Widmer 2013): the rise of each band against the loudest of itself and its two neighbours two hops
 * before, so that vibrato, which only moves energy to the next band, does not count as an onset.
 */
export function onsetStrength(spectrum: Spectrogram): OnsetStrength {
  const { frameCount, bandCount, bands, bandHz } = spectrum;
  const all = new Float32Array(frameCount);
  const low = new Float32Array(frameCount);
  for (let frame = LAG_HOPS; frame < frameCount; frame++) {
    const now = frame * bandCount;
    const before = (frame - LAG_HOPS) * bandCount;
    let sum = 0;
    let lowSum = 0;
    for (let band = 0; band < bandCount; band++) {
      let reference = bands[before + band]!;
      if (band > 0) reference = Math.max(reference, bands[before + band - 1]!);
      if (band + 1 < bandCount) reference = Math.max(reference, bands[before + band + 1]!);
      const rise = bands[now + band]! - reference;
      if (rise <= 0) continue;
      sum += rise;
      if (bandHz[band]! < LOW_HZ) lowSum += rise;
    }
    all[frame] = sum;
    low[frame] = lowSum;
  }
  return { all: toMeanOne(all), low: toMeanOne(low) };
}

function toMeanOne(curve: Float32Array): Float32Array {
  let sum = 0;
  for (const value of curve) sum += value;
  const mean = sum / curve.length;
  return mean > 1e-6 ? curve.map((value) => value / mean) : new Float32Array(curve.length);
}

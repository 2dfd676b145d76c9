import { describe, expect, it } from "vitest";
import { heardBeatFeatures } from "../index.ts";
import { FEATURES_PER_FRAME } from "./beat-features.ts";

const RATE = 44_100;
/** Levels and onsets; the rest is change of harmony, which is between 0 and 1 by itself. */
const STANDARDISED = 60;

/** Six seconds of struck chords and hats over a little hiss. */
const song = Float32Array.from({ length: 6 * RATE }, (_, i) => {
  const t = (i / RATE) % 0.5;
  const noise = ((Math.imul(i, 1_103_515_245) + 12_345) >>> 16) / 2 ** 15 - 1;
  const hat = (i / RATE + 0.25) % 0.5;
  const tone = Math.sin(i * 0.02) + 0.6 * Math.sin(i * 0.0302) + 0.4 * Math.sin(i * 0.1);
  return 0.2 * Math.exp(-t * 8) * tone + noise * (0.002 + 0.1 * Math.exp(-hat * 40));
});

/** What lies above about 1.5 kHz is raised or lowered. */
function withTreble(samples: Float32Array, decibels: number): Float32Array {
  const gain = 10 ** (decibels / 20) - 1;
  let low = 0;
  return samples.map((sample) => {
    low += 0.19 * (sample - low);
    return sample + gain * (sample - low);
  });
}

const columnsOf = (features: Float32Array): number[][] =>
  Array.from({ length: FEATURES_PER_FRAME }, (_, column) =>
    Array.from(
      { length: features.length / FEATURES_PER_FRAME },
      (_, row) => features[row * FEATURES_PER_FRAME + column]!,
    ),
  );
const meanOf = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

describe("what the beat network hears", () => {
  const features = heardBeatFeatures({ samples: song, sampleRate: RATE });

  it("has a mean near 0 and a deviation of at most about 1 over the song, in each level and onset", () => {
    for (const values of columnsOf(features).slice(0, STANDARDISED)) {
      expect(Math.abs(meanOf(values))).toBeLessThan(0.25);
      expect(Math.sqrt(meanOf(values.map((value) => value * value)))).toBeLessThan(1.05);
    }
  });

  it("is nearly the same in a dull and a bright copy", () => {
    // Against how far the features of the song itself lie from their column's mean.
    const means = columnsOf(features).map(meanOf);
    const spread = meanOf([...features].map((value, i) => Math.abs(value - means[i % FEATURES_PER_FRAME]!)));
    const apart = (other: Float32Array): number =>
      meanOf([...features].map((value, i) => Math.abs(value - other[i]!))) / spread;
    for (const decibels of [-8, 8]) {
      const copy = heardBeatFeatures({ samples: withTreble(song, decibels), sampleRate: RATE });
      expect(apart(copy), `${decibels} dB`).toBeLessThan(0.14);
    }
  });

  it("does not count silence before the song, and is finite where there is nothing but silence", () => {
    const later = new Float32Array(song.length + 10 * RATE);
    later.set(song, 10 * RATE);
    const shifted = heardBeatFeatures({ samples: later, sampleRate: RATE }).subarray(500 * FEATURES_PER_FRAME);
    const apart = [...features].map((value, i) => Math.abs(value - shifted[i]!)).sort((a, b) => a - b);
    expect(apart[Math.floor(apart.length * 0.9)]).toBeLessThan(0.25);
    const silence = heardBeatFeatures({ samples: new Float32Array(RATE), sampleRate: RATE });
    expect(silence.every(Number.isFinite)).toBe(true);
  });
});

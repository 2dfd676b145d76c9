import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { seededRandom } from "../testing/index.ts";
import { decibels, denoise, type SpeechFacts, SpeechFinder } from "./index.ts";

const RATE = 48_000;

/** Syllables of a buzzing voice, five a second, where the truth says; noise of a room all over. */
function spokenIn(
  seconds: number,
  truth: readonly (readonly [from: number, to: number])[],
  noise: number,
): Float32Array {
  const random = seededRandom(3);
  return Float32Array.from({ length: seconds * RATE }, (_, i) => {
    const t = i / RATE;
    const run = truth.find(([from, to]) => t >= from && t < to);
    let voice = 0;
    if (run) {
      const syllable = Math.abs(Math.sin(Math.PI * 5 * (t - run[0]))) ** 0.7;
      for (let harmonic = 1; harmonic <= 20; harmonic++)
        voice += (0.12 / harmonic) * syllable * Math.sin(2 * Math.PI * 140 * harmonic * t);
    }
    return voice + noise * (random() - 0.5);
  });
}

function found(samples: Float32Array): SpeechFacts {
  const finder = new SpeechFinder(RATE);
  for (let at = 0; at < samples.length; at += 7001)
    finder.add([samples.subarray(at, at + 7001), samples.subarray(at, at + 7001)]);
  return finder.result();
}

const rms = (samples: Float32Array, from: number, to: number): number => {
  const piece = samples.subarray(Math.round(from * RATE), Math.round(to * RATE));
  return Math.sqrt(piece.reduce((sum, sample) => sum + sample * sample, 0) / piece.length);
};

describe("speech", () => {
  const truth = [
    [1, 2.6],
    [3.4, 6],
    [8, 9],
  ] as const;

  it.each([0, 0.005, 0.03])("is found within 0.1 s of its edges in noise of %d", (noise) => {
    const { stretches } = found(spokenIn(10, truth, noise));
    expect(stretches).toHaveLength(truth.length);
    for (const [i, [from, to]] of truth.entries()) {
      expect(Math.abs(itemAt(stretches, i).startSeconds - from)).toBeLessThan(0.1);
      expect(Math.abs(itemAt(stretches, i).endSeconds - to)).toBeLessThan(0.1);
    }
  });

  it("is not found in silence, a hiss, a hum or a click", () => {
    const hum = Float32Array.from({ length: 5 * RATE }, (_, i) => 0.1 * Math.sin((2 * Math.PI * 200 * i) / RATE));
    const click = new Float32Array(5 * RATE);
    click.fill(0.5, RATE, RATE + 400);
    for (const samples of [new Float32Array(5 * RATE), spokenIn(5, [], 0.1), hum, click])
      expect(found(samples).stretches).toEqual([]);
    expect(found(new Float32Array(RATE)).lufs).toBeNull();
  });
});

describe("less noise", () => {
  const truth = [[1, 3]] as const;

  it("takes noise down by up to 12 dB and leaves what is spoken", () => {
    const clean = spokenIn(5, truth, 0);
    const noisy = spokenIn(5, truth, 0.02);
    const { stretches } = found(noisy);
    const [less] = denoise([noisy, noisy], stretches, RATE);
    expect(less).toHaveLength(noisy.length);
    const change = decibels(rms(less, 3.5, 4.8) / rms(noisy, 3.5, 4.8));
    expect(change).toBeLessThan(-9);
    expect(change).toBeGreaterThan(-12.5);
    expect(Math.abs(decibels(rms(less, 1, 3) / rms(clean, 1, 3)))).toBeLessThan(0.5);
    // Nearer to what was said than before, sample by sample: nothing is late or turned.
    const error = (samples: Float32Array): number =>
      rms(
        samples.map((sample, i) => sample - itemAt(clean, i)),
        1.1,
        2.9,
      );
    expect(error(less)).toBeLessThan(0.8 * error(noisy));
  });

  it("leaves a recording without noise as it is", () => {
    const clean = spokenIn(4, truth, 0);
    const [same] = denoise([clean, clean], found(clean).stretches, RATE);
    expect(
      rms(
        same.map((sample, i) => sample - itemAt(clean, i)),
        0,
        4,
      ),
    ).toBeLessThan(1e-4);
  });
});

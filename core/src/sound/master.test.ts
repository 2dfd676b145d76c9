import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { seededRandom } from "../testing/index.ts";
import {
  decibels,
  LoudnessMeter,
  MasteredMix,
  MasterMeasure,
  memorySource,
  type SoundRenderer,
  type Stereo,
  TruePeakMeter,
} from "./index.ts";

const RATE = 48_000;

/**
 * A drum-like music: decaying noise on each beat over a chord, with a few peaks far above the rest.
 */
function drums(seconds: number, level: number): Stereo {
  const random = seededRandom(7);
  const count = seconds * RATE;
  // As in music, little lies near the highest frequencies.
  let [noise, softer] = [0, 0];
  const [left, right] = [new Float32Array(count), new Float32Array(count)];
  for (let i = 0; i < count; i++) {
    const beat = i % (RATE / 2);
    noise += 0.4 * (random() - 0.5 - noise);
    softer += 0.4 * (noise - softer);
    const hit = 4 * Math.exp(-beat / 2000) * softer * (i % (4 * RATE) < RATE / 2 ? 3 : 1);
    const chord = 0.2 * (Math.sin(i * 0.0131) + Math.sin(i * 0.0197 + 1) + Math.sin(i * 0.0262));
    left[i] = level * (hit + chord);
    right[i] = level * (hit * 0.8 + chord);
  }
  return [left, right];
}

const rendererOf = (sound: Stereo): SoundRenderer => {
  const source = memorySource(sound);
  return { frameCount: source.frameCount, render: (first, count) => source.read(first, count) };
};

/** Without an assertion a sample. */
const isSame = (a: Float32Array, b: Float32Array): boolean =>
  a.length === b.length && a.every((sample, i) => sample === b[i]);

function measured(mix: SoundRenderer, targetLufs: number | null, ceilingDbtp = -1) {
  const measure = new MasterMeasure(mix, { targetLufs, ceilingDbtp });
  while (!measure.done) measure.step();
  return measure.result();
}

/**
 * Highest value between samples, by a windowed sinc of 64 taps at sixteen times the rate: another
 * filter than the one in use.
 */
function finePeak(samples: Float32Array): number {
  let peak = 0;
  for (let i = 32; i < samples.length - 32; i++) {
    if (Math.abs(itemAt(samples, i)) < 0.7) continue;
    for (let phase = 0; phase < 16; phase++) {
      let sum = 0;
      for (let k = -31; k <= 32; k++) {
        const x = k - phase / 16;
        const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
        sum += itemAt(samples, i + k) * sinc * Math.cos((Math.PI * x) / 66) ** 2;
      }
      peak = Math.max(peak, Math.abs(sum));
    }
  }
  return peak;
}

describe("the master", () => {
  it.each([-23, -16, -14, -9])("brings a mix to %d LUFS, as the meter reads what comes out", (target) => {
    const mix = rendererOf(drums(12, 0.3));
    const master = measured(mix, target);
    const out = new MasteredMix(mix, RATE, master.gainDecibels, master.ceilingDbtp).render(0, mix.frameCount);
    const [meter, peaks] = [new LoudnessMeter(), new TruePeakMeter()];
    meter.add(out);
    peaks.add(out);
    expect(Math.abs(meter.result().integratedLufs - target)).toBeLessThan(0.1);
    expect(master.after.integratedLufs).toBeCloseTo(target, 1);
    expect(decibels(peaks.peak)).toBeLessThan(-1 + 0.05);
    expect(decibels(Math.max(...out.map(finePeak)))).toBeLessThan(-1 + 0.3);
  });

  it("does nothing where nothing is asked for and nothing clips", () => {
    const mix = rendererOf(drums(3, 0.1));
    const master = measured(mix, null);
    expect(master.gainDecibels).toBe(0);
    expect(master.limiterDecibels.every((level) => level === 0)).toBe(true);
    const out = new MasteredMix(mix, RATE, 0, -1).render(0, mix.frameCount);
    expect(isSame(out[0], mix.render(0, mix.frameCount)[0])).toBe(true);
  });

  it("holds peaks without a target, and says by how much", () => {
    const mix = rendererOf(drums(4, 1.5));
    const master = measured(mix, null);
    expect(master.before.truePeakDbtp).toBeGreaterThan(3);
    expect(master.after.truePeakDbtp).toBeLessThan(-0.9);
    expect(Math.min(...master.limiterDecibels)).toBeLessThan(-4);
  });

  it("gives every frame alike, however it is asked for", () => {
    const mix = rendererOf(drums(8, 0.9));
    const whole = new MasteredMix(mix, RATE, 6, -1).render(0, mix.frameCount);
    const pieces = new MasteredMix(mix, RATE, 6, -1);
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(8 * RATE - 1), fc.integer({ min: 1, max: 30_000 }), fc.boolean()), { maxLength: 5 }),
        (asked) => {
          let next = 0;
          for (const [jump, count, goesOn] of asked) {
            const first = goesOn ? next : jump;
            const [left] = pieces.render(first, count);
            const expected = Float32Array.from({ length: count }, (_, i) => whole[0][first + i] ?? 0);
            expect(isSame(left, expected)).toBe(true);
            next = first + count;
          }
        },
      ),
      { numRuns: 40 },
    );
  });

  it("leaves silence alone", () => {
    const mix = rendererOf([new Float32Array(RATE), new Float32Array(RATE)]);
    const master = measured(mix, -14);
    expect(master.gainDecibels).toBe(0);
    expect(master.before).toMatchObject({ integratedLufs: null, truePeakDbtp: null });
  });
});

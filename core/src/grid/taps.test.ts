import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { seededNormal, seededRandom } from "../testing/index.ts";
import { averagedPasses, drawnTo, measureTapLag, pulseOfTaps } from "./taps.ts";

const median = (values: number[]): number =>
  itemAt(
    values.sort((a, b) => a - b),
    values.length >> 1,
  );
const every = (count: number, gap: number, from = 0): number[] =>
  Array.from({ length: count }, (_, i) => from + i * gap);

/** Common practice: a person's taps lie some 20 to 80 ms early or late. */
function person(seed: number) {
  const random = seededRandom(seed);
  const normal = seededNormal(random);
  const lag = (0.02 + 0.06 * random()) * (random() < 0.5 ? -1 : 1);
  const tap = (beats: readonly number[]) => beats.map((beat) => beat + lag + 0.02 * normal()).sort((a, b) => a - b);
  return { lag, tap, random };
}

describe("the lag of a person", () => {
  it("is measured from taps to a click, within a few milliseconds, with its spread", () => {
    const clicks = every(20, 0.6, 1);
    const errors = every(100, 1).map((seed) => {
      const someone = person(seed);
      const { medianSeconds, spreadSeconds, count } = measureTapLag(clicks, someone.tap(clicks));
      expect(count).toBe(20);
      expect(spreadSeconds).toBeGreaterThan(0.005);
      expect(spreadSeconds).toBeLessThan(0.05);
      return Math.abs(medianSeconds - someone.lag);
    });
    // The standard error of a median of 20 is 1.25 * 20 ms / sqrt(20) = 5.6 ms; half of all errors
    // lie under two thirds of it.
    expect(median(errors)).toBeLessThan(0.005);
  });

  it("forgets taps that were meant for no click and asks for more where too few are left", () => {
    const clicks = every(12, 1);
    expect(measureTapLag(clicks, [...clicks.map((click) => click + 0.05), 3.5]).medianSeconds).toBeCloseTo(0.05, 9);
    expect(() => measureTapLag(clicks, [0.05, 1.05])).toThrow(/at least 8 taps/);
  });
});

describe("a pass as the grid", () => {
  it("fits 32 taps with lag and 20 ms spread to 10 ms in the median, over 100 people", () => {
    const all: number[] = [];
    const clicks = every(20, 0.6, 1);
    for (let seed = 0; seed < 100; seed++) {
      const someone = person(seed);
      const { medianSeconds } = measureTapLag(clicks, someone.tap(clicks));
      const beats = every(32, 60 / (60 + 90 * someone.random()), 5);
      const fitted = pulseOfTaps(someone.tap(beats).map((tap) => tap - medianSeconds));
      expect(fitted).toHaveLength(32);
      all.push(...fitted.map((time, i) => Math.abs(time - itemAt(beats, i))));
    }
    expect(median(all)).toBeLessThanOrEqual(0.01);
  });

  it("follows a tempo that drifts by a tenth over the pass", () => {
    const errors: number[] = [];
    for (let seed = 0; seed < 20; seed++) {
      const normal = seededNormal(seededRandom(seed));
      const beats = every(32, 1).map((i) => i * 0.5 + 0.0008 * i * i);
      const fitted = pulseOfTaps(beats.map((beat) => beat + 0.02 * normal()));
      errors.push(...fitted.map((time, i) => Math.abs(time - itemAt(beats, i))));
    }
    expect(median(errors)).toBeLessThan(0.01);
  });

  it("puts in a beat that was left out, takes a double tap once, and is not bent by one wrong tap", () => {
    const beats = every(24, 0.5, 2);
    const taps = beats.filter((_, i) => i !== 9).concat(itemAt(beats, 15) + 0.08);
    taps[4] = itemAt(taps, 4) + 0.15;
    const fitted = pulseOfTaps(taps.sort((a, b) => a - b));
    expect(fitted).toHaveLength(24);
    fitted.forEach((time, i) => expect(Math.abs(time - itemAt(beats, i))).toBeLessThan(0.02));
  });

  it("keeps what is too short to fit", () => {
    expect(pulseOfTaps([1, 2])).toEqual([1, 2]);
    expect(pulseOfTaps([])).toEqual([]);
  });
});

describe("several passes", () => {
  it("are averaged beat by beat, whoever left one out", () => {
    const merged = averagedPasses([
      [1, 2, 3, 4.02],
      [1.02, 2.04, 4],
      [0.98, 2.02, 3.04, 3.98],
    ]);
    expect(merged.map((time) => Math.round(time * 100))).toEqual([100, 202, 302, 400]);
  });
});

describe("drawing to onsets", () => {
  it("moves what is near enough, each target once, and leaves the rest", () => {
    expect(drawnTo([1.03, 2.2, 3.01, 3.04], [1, 2, 3.05], 0.05)).toEqual([1, 2.2, 3.01, 3.05]);
    expect(drawnTo([1, 2], [], 0.05)).toEqual([1, 2]);
  });
});

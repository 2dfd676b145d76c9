import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../../presence/index.ts";
import { ONSET_RANGES } from "../signal/index.ts";
import { trackBars } from "./bar-pointer.ts";
import type { BeatActivations } from "./beat-network.ts";
import { timeBeats } from "./beat-times.ts";
import { onsetCurve } from "./onset-curve.ts";
import { pulsePrior } from "./pulse-prior.ts";
import { steadyPulses } from "./steady-pulse.ts";

/** Strokes at these moments, as strong as said, over a little noise. */
function curveOf(strokes: readonly (readonly [seconds: number, strength: number])[], seconds: number): Float32Array {
  const curve = Float32Array.from({ length: seconds * 100 }, (_, hop) => 0.3 + 0.2 * Math.sin(hop * 1.7) ** 2);
  for (const [at, strength] of strokes) {
    for (let hop = Math.max(0, Math.floor(at * 100) - 2); hop <= Math.min(curve.length - 1, at * 100 + 3); hop++)
      curve[hop]! += strength * Math.exp(-0.5 * ((hop - at * 100) / 0.9) ** 2);
  }
  return curve;
}

const times = (gap: number, from: number, to: number): number[] =>
  Array.from({ length: Math.floor((to - from) / gap) }, (_, i) => from + i * gap);

/** How far a moment lies from the nearest multiple of `period` behind `phase`. */
const distance = (moment: number, phase: number, period: number): number => {
  const turns = (moment - phase) / period;
  return Math.abs(turns - Math.round(turns)) * period;
};

describe("the steady pulse", () => {
  it("is found to 3 ms over the whole song, whatever its tempo and phase, with people and silences in it", () => {
    const songs = fc.record({
      bpm: fc.double({ min: 72, max: 156, noNaN: true }),
      from: fc.double({ min: 0, max: 0.8, noNaN: true }),
      seed: fc.nat(1000),
    });
    fc.assert(
      fc.property(songs, ({ bpm, from, seed }) => {
        const beats = times(60 / bpm, from, 90);
        const late = (i: number): number => 0.008 * Math.sin(seed + i * 2.3);
        // A break of eight seconds, in which nothing is struck.
        const strokes = beats.flatMap((at, i) => (at > 40 && at < 48 ? [] : [[at + late(i), 3 + (i % 2)] as const]));
        const [pulse, ...others] = steadyPulses(curveOf(strokes, 90));
        if (!pulse) throw new Error("no pulse was found");
        expect(others).toEqual([]);
        // The pulse may be found at another level; half of its beats are on the beat all the same.
        const ratio = pulse.periodSeconds / (60 / bpm);
        expect(Math.min(...[0.5, 1, 2].map((level) => Math.abs(ratio / level - 1)))).toBeLessThan(0.0005);
        const step = Math.min(60 / bpm, pulse.periodSeconds) / 2;
        for (const at of beats.slice(20, -20)) expect(distance(at, pulse.phaseSeconds, step)).toBeLessThan(0.003);
      }),
      { numRuns: 25 },
    );
  });

  it("has a stretch for each tempo, and none where the music breathes or nothing is struck", () => {
    const both = [...times(0.5, 0.2, 60), ...times(0.62, 60.2, 120)].map((at) => [at, 3] as const);
    const tempi = steadyPulses(curveOf(both, 120)).map(({ periodSeconds }) => periodSeconds);
    expect(tempi).toHaveLength(2);
    expect(itemAt(tempi, 0)).toBeCloseTo(0.5, 3);
    expect(itemAt(tempi, 1)).toBeCloseTo(0.62, 3);

    // A long song is told in parts of ten minutes, so that its cost grows no faster than it does.
    const long = steadyPulses(
      curveOf(
        times(0.5, 0.2, 1500).map((beat) => [beat, 3] as const),
        1500,
      ),
    );
    expect(long.map(({ from, to }) => (to - from) / 100)).toEqual([610, 610, 300]);
    for (const { periodSeconds } of long) expect(periodSeconds).toBeCloseTo(0.5, 5);

    let at = 0.3;
    const breathing = Array.from({ length: 150 }, (_, i) => [(at += 0.55 * (1 + 0.06 * Math.sin(i / 9))), 3] as const);
    expect(steadyPulses(curveOf(breathing, 90))).toEqual([]);
    expect(steadyPulses(new Float32Array(9000))).toEqual([]);
    expect(steadyPulses(new Float32Array(10))).toEqual([]);
    expect(steadyPulses(new Float32Array(0))).toEqual([]);
  });

  it("is trusted less where its windows do not agree", () => {
    const strokes = [...times(0.5, 0.2, 60), ...times(0.5, 60.33, 80), ...times(0.5, 80.2, 140)];
    const [pulse] = steadyPulses(
      curveOf(
        strokes.map((at) => [at, 3] as const),
        140,
      ),
    );
    expect(pulse?.trust[3000]).toBe(1);
    expect(pulse?.trust[7000]).toBe(0);
    expect(pulse?.trust[12_000]).toBe(1);
  });
});

describe("the trust in a steady pulse", () => {
  it("goes through a rest of seven seconds, and ends with the first and the last stroke", () => {
    const beats = times(0.5, 20.2, 80).filter((at) => at < 40 || at > 47);
    const [pulse] = steadyPulses(
      curveOf(
        beats.map((at) => [at, 3] as const),
        100,
      ).map((value) => Math.max(0, value - 0.6)),
    );
    const trustAt = (seconds: number): number => pulse?.trust[Math.round(seconds * 100) - (pulse?.from ?? 0)] ?? 0;
    expect(trustAt(19)).toBe(0);
    expect(trustAt(20.2)).toBeGreaterThan(0);
    expect(trustAt(43.5)).toBeGreaterThan(0);
    expect(trustAt(79.2)).toBeGreaterThan(0);
    expect(trustAt(82)).toBe(0);
  });
});

describe("the onset curve", () => {
  it("hears a quiet passage as it hears a loud one, and a band as the others", () => {
    const hops = 2000;
    const ranges = new Float32Array(hops * ONSET_RANGES);
    for (let hop = 0; hop < hops; hop += 50) {
      for (let range = 0; range < ONSET_RANGES; range++)
        ranges[hop * ONSET_RANGES + range] = (hop < 1000 ? 1 : 10) * (range < 2 ? 1 : 5);
    }
    const curve = onsetCurve({ ranges, all: new Float32Array(hops) });
    expect(itemAt([...curve], 500)).toBeCloseTo(24, 0);
    expect(itemAt([...curve], 1500)).toBeCloseTo(24, 0);
    expect(itemAt([...curve], 525)).toBe(0);
  });
});

describe("what a steady pulse says before the network is asked", () => {
  /** A network that hears the beats within these stretches, and next to nothing else. */
  const hearing = (beats: readonly number[], seconds: number, isHeard: (at: number) => boolean): BeatActivations => {
    const frameCount = seconds * 50;
    const beat = new Float32Array(frameCount).fill(-3.5);
    for (const at of beats) if (isHeard(at)) beat[Math.round((at - 0.005) / 0.02)] = 2;
    const none = new Float32Array(frameCount);
    return { frameCount, beat, barStart: none.slice().fill(-5), sectionStart: none, place: none };
  };

  it("carries the beat through twenty seconds that the network does not hear, and to both ends", () => {
    const beats = times(0.5, 0.25, 100);
    const curve = curveOf(
      beats.flatMap(
        (at) =>
          [
            [at, 3],
            [at + 0.25, 4],
          ] as const,
      ),
      100,
    );
    const pulses = steadyPulses(curve);
    const activations = hearing(beats, 100, (at) => at > 8 && at < 90 && (at < 40 || at > 60));
    const prior = pulsePrior(pulses, curve, activations);
    // As much as docs/listen.md says.
    expect(Math.max(...prior)).toBeCloseTo(5, 1);
    const found = timeBeats(trackBars(activations, prior), activations, prior);
    // One beat at each end may stay unheard: nothing stands behind it.
    expect(found.length).toBeGreaterThanOrEqual(beats.length - 2);
    for (const { seconds } of found) expect(distance(seconds, 0.25, 0.5)).toBeLessThan(0.02);
    const alone = timeBeats(trackBars(activations, new Float32Array(0)), activations, new Float32Array(0));
    expect(alone.length).toBeLessThan(beats.length - 50);
  });

  it("says nothing where there is no pulse, or the network hears none of its levels", () => {
    const silent = hearing([], 100, () => false);
    expect(pulsePrior([], new Float32Array(100), silent)).toEqual(new Float32Array(100));
    const curve = curveOf(
      times(0.5, 0.25, 100).map((at) => [at, 3] as const),
      100,
    );
    const pulses = steadyPulses(curve);
    expect(pulses).toHaveLength(1);
    expect(pulsePrior(pulses, curve, silent)).toEqual(new Float32Array(10_000));
  });
});

import { describe, expect, it } from "vitest";
import { refineToOnset } from "./beats/onset-refinement.ts";
import { energyCurve } from "./signal/energy.ts";
import { extremesBetween, packPeaks, unpackPeaks, waveformPeaks } from "./signal/waveform-peaks.ts";
import { findAccents } from "./structure/accents.ts";
import { findEnding } from "./structure/ending.ts";

const RATE = 44_100;
const sine = (seconds: number, level: (t: number) => number) =>
  Float32Array.from({ length: Math.round(seconds * RATE) }, (_, i) => level(i / RATE) * Math.sin(i * 0.2));

describe("energy", () => {
  it("is the root mean square: a full sine has 0.707, half of it 0.354", () => {
    const samples = sine(2, (t) => (t < 1 ? 1 : 0.5));
    const { stepSeconds, values } = energyCurve({ samples, sampleRate: RATE });
    expect([stepSeconds, values.length]).toEqual([0.1, 20]);
    expect(values[4]).toBeCloseTo(Math.SQRT1_2, 2);
    expect(values[15]).toBeCloseTo(Math.SQRT1_2 / 2, 2);
  });
});

describe("the end of the music", () => {
  const curve = (level: (t: number) => number, seconds: number) =>
    energyCurve({ samples: sine(seconds, level), sampleRate: RATE });
  const struck = Array.from({ length: 40 }, (_, i) => i * 0.5);

  it("is where a fade has become too soft to hear, not where the file ends", () => {
    // 10 dB a second from 10 s on: 45 dB are reached after 4.5 s.
    const faded = findEnding(
      curve((t) => (t < 10 ? 0.8 : 0.8 * 10 ** (-(t - 10) / 2)), 20),
      struck,
      20,
      null,
    );
    expect(faded.kind).toBe("fade");
    expect(faded.endSeconds).toBeCloseTo(14.5, 0);
    expect(Math.abs(faded.fromSeconds - 10)).toBeLessThan(1);
  });

  it("tells a last chord that rings out from a fade, and both from music that breaks off", () => {
    const ringing = (t: number): number => (t < 10 ? 0.5 : 0.5 * Math.exp(-(t - 10)));
    const chord = findEnding(
      curve(ringing, 20),
      struck.filter((at) => at <= 10),
      20,
      null,
    );
    expect(chord).toMatchObject({ kind: "chord", fromSeconds: 10 });
    const cut = findEnding(
      curve((t) => (t < 12.3 ? 0.5 : 0), 15),
      struck,
      15,
      null,
    );
    expect(cut.kind).toBe("cut");
    expect(cut.endSeconds).toBeCloseTo(12.3, 1);
  });

  it("has none in silence", () => {
    expect(findEnding(energyCurve({ samples: new Float32Array(RATE), sampleRate: RATE }), [], 1, null).kind).toBe(
      "none",
    );
  });
});

describe("accents", () => {
  it("are the strongest onsets of their neighbourhood, the earlier of two equals", () => {
    const onsets = new Float32Array(600);
    for (const [hop, value] of [
      [50, 8],
      [70, 6],
      [200, 5],
      [230, 5],
      [400, 3],
      [500, 10],
    ] as const)
      onsets[hop] = value;
    const accents = findAccents({ samples: new Float32Array(6 * RATE), sampleRate: RATE }, onsets);
    expect(accents.map(({ seconds }) => Math.round(seconds * 100))).toEqual([50, 200, 500]);
    // Of three accents the middle one is the 75th percentile and, rounded down, the 98th.
    expect(accents.map(({ strength }) => strength)).toEqual([0.5, 0.3125, 1]);
  });

  it("are strong against the song's others: a quarter have half the strength or more, whatever one crash has", () => {
    const onsets = new Float32Array(20_100);
    for (let i = 0; i < 200; i++) onsets[i * 100 + 50] = 5 + i / 100;
    onsets[15_050] = 60;
    const strengths = findAccents({ samples: new Float32Array(202 * RATE), sampleRate: RATE }, onsets).map(
      ({ strength }) => strength,
    );
    expect(strengths).toHaveLength(200);
    expect(Math.abs(strengths.filter((strength) => strength >= 0.5).length - 50)).toBeLessThan(3);
    expect(Math.abs(strengths.filter((strength) => strength === 1).length - 4)).toBeLessThan(3);
    expect(Math.min(...strengths)).toBeGreaterThan(0.3);
  });
});

describe("refining a beat", () => {
  it.each([-0.021, -0.008, 0, 0.004, 0.017])("finds the attack from %d s beside it, within 3 ms", (offset) => {
    const attack = 0.5;
    const samples = sine(1, (t) => 0.02 + (t >= attack ? 0.7 * Math.exp(-(t - attack) * 20) : 0));
    const { seconds, riseDecibels } = refineToOnset({ samples, sampleRate: RATE }, attack + offset);
    expect(Math.abs(seconds - attack)).toBeLessThan(0.003);
    expect(riseDecibels).toBeGreaterThan(10);
  });

  it("leaves a beat alone where nothing begins", () => {
    const samples = sine(1, () => 0.3);
    expect(refineToOnset({ samples, sampleRate: RATE }, 0.5)).toEqual({ seconds: 0.5, riseDecibels: 0 });
  });
});

describe("the waveform's peaks", () => {
  const samples = sine(2.5, (t) => t * 0.4);
  const peaks = waveformPeaks({ samples, sampleRate: RATE });

  it.each([0.0001, 0.003, 0.04, 0.31, 2.5])("of stretches of %d s hold all of its samples and little more", (span) => {
    for (let from = 0; from + span <= 2.5; from += Math.max(span, 0.05)) {
      const [low, high] = extremesBetween(peaks, from, from + span);
      const inside = samples.subarray(Math.floor(from * RATE), Math.ceil((from + span) * RATE));
      // Drawn a step wider at most on each side: the loudest of that neighbourhood bounds it.
      const step = peaks.levels.findLast(({ samplesPerStep }) => samplesPerStep <= span * RATE)?.samplesPerStep ?? 16;
      const around = samples.subarray(
        Math.max(0, Math.floor(from * RATE) - step),
        Math.ceil((from + span) * RATE) + step,
      );
      const highest = (list: Float32Array): number => list.reduce((most, sample) => Math.max(most, sample), 0) * 127;
      expect(inside.reduce((least, sample) => Math.min(least, sample), 0) * 127).toBeGreaterThanOrEqual(low - 0.51);
      expect(highest(inside)).toBeLessThanOrEqual(high + 0.51);
      expect(high).toBeLessThanOrEqual(highest(around) + 0.51);
    }
  });

  it("are read back as they were written, and nothing else is read", () => {
    const bytes = packPeaks(peaks);
    expect(unpackPeaks(bytes.buffer as ArrayBuffer)).toEqual(peaks);
    expect(() => unpackPeaks(new Uint8Array(40).buffer)).toThrow(RangeError);
  });
});

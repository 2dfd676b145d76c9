import { describe, expect, it } from "vitest";
import { decibels } from "./decibels.ts";
import { LOUDNESS_SAMPLE_RATE, type Loudness, LoudnessMeter } from "./loudness.ts";
import type { Stereo } from "./sample-source.ts";
import { TruePeakMeter } from "./true-peak.ts";

/**
 * A sine of 1 kHz in both channels, one level (peak, dBFS) after the other, without a jump in
 * phase.
 */
function tones(levels: readonly (readonly [dbfs: number, seconds: number])[]): Stereo {
  const count = levels.reduce((sum, [, seconds]) => sum + Math.round(seconds * LOUDNESS_SAMPLE_RATE), 0);
  const samples = new Float32Array(count);
  let at = 0;
  for (const [dbfs, seconds] of levels) {
    const end = at + Math.round(seconds * LOUDNESS_SAMPLE_RATE);
    for (; at < end; at++) samples[at] = 10 ** (dbfs / 20) * Math.sin((2 * Math.PI * 1000 * at) / LOUDNESS_SAMPLE_RATE);
  }
  return [samples, samples.slice()];
}

/** Added in pieces of uneven lengths, as it comes from a mixer. */
function measured([left, right]: Stereo): Loudness {
  const meter = new LoudnessMeter();
  for (let at = 0, length = 1000; at < left.length; at += length, length = 1 + ((length * 7919) % 50_000))
    meter.add([left.subarray(at, at + length), right.subarray(at, at + length)]);
  return meter.result();
}

const repeated = <T>(times: number, ...values: readonly T[]): T[] => Array.from({ length: times }, () => values).flat();

describe("loudness", () => {
  // EBU Tech 3341, table 1, cases 1 to 5: stereo sines of 1 kHz, read within 0.1 LU. The levels are
  // from memory.
  it.each([
    ["1", [[-23, 20]], -23],
    ["2", [[-33, 20]], -33],
    [
      "3",
      [
        [-36, 10],
        [-23, 60],
        [-36, 10],
      ],
      -23,
    ],
    [
      "4",
      [
        [-72, 10],
        [-36, 10],
        [-23, 60],
        [-36, 10],
        [-72, 10],
      ],
      -23,
    ],
    [
      "5",
      [
        [-26, 20],
        [-20, 20.1],
        [-26, 20],
      ],
      -23,
    ],
  ] as const)("of case %s of EBU Tech 3341 is what the paper says", (_case, levels, lufs) => {
    expect(Math.abs(measured(tones(levels)).integratedLufs - lufs)).toBeLessThanOrEqual(0.1);
  });

  it("over three seconds and over 400 ms stays even where the paper says so (cases 9 and 12)", () => {
    const { shortTermLufs } = measured(tones(repeated(5, [-20, 1.34] as const, [-30, 1.66] as const)));
    for (const lufs of shortTermLufs) expect(Math.abs(lufs + 23)).toBeLessThanOrEqual(0.1);
    expect(shortTermLufs.length).toBe(150 - 29);
    const { momentaryLufs } = measured(tones(repeated(25, [-20, 0.18] as const, [-30, 0.22] as const)));
    for (const lufs of momentaryLufs.slice(7)) expect(Math.abs(lufs + 23)).toBeLessThanOrEqual(0.1);
  });

  // EBU Tech 3342, table 1, cases 1 to 4: the range, within 1 LU. From memory.
  it.each([
    [[-20, -30], 10],
    [[-20, -15], 5],
    [[-40, -20], 20],
    [[-50, -35, -20, -35, -50], 15],
  ] as const)("ranges over what EBU Tech 3342 says for %j", (levels, rangeLu) => {
    const { rangeLu: range } = measured(tones(levels.map((dbfs) => [dbfs, 20] as const)));
    expect(Math.abs(range - rangeLu)).toBeLessThanOrEqual(1);
  });

  it("of silence, and of less than a block, is none", () => {
    expect(measured(tones([[-120, 5]]))).toMatchObject({ integratedLufs: -Infinity, rangeLu: 0 });
    expect(measured(tones([[-10, 0.35]]))).toMatchObject({ integratedLufs: -Infinity, momentaryLufs: [] });
  });
});

/**
 * A sine whose frequency is a part of the sampling rate, so that its peaks lie at the same places
 * between samples; faded in and out, as a start out of nothing is a peak of its own.
 */
function sine(part: number, degrees: number, amplitude: number): Stereo {
  const [count, fade] = [9600, 2400];
  const samples = Float32Array.from({ length: count }, (_, i) => {
    const share = Math.min(1, (i + 1) / fade, (count - i) / fade);
    return amplitude * share * Math.sin((2 * Math.PI * i) / part + (degrees * Math.PI) / 180);
  });
  return [samples, new Float32Array(count)];
}

describe("true peak", () => {
  // EBU Tech 3341, table 1, cases 15 to 19: within +0.2 and -0.4 dB. From memory.
  it.each([
    [4, 0, 0.5, -6],
    [4, 45, 0.5, -6],
    [6, 60, 0.5, -6],
    [8, 67.5, 0.5, -6],
    [4, 45, 1.41, 3],
  ])("of a sine of 1/%i of the rate at %f degrees, %f of full scale, is %f dBTP", (part, degrees, amplitude, dbtp) => {
    const meter = new TruePeakMeter();
    const [left, right] = sine(part, degrees, amplitude);
    for (let at = 0; at < left.length; at += 333)
      meter.add([left.subarray(at, at + 333), right.subarray(at, at + 333)]);
    const error = decibels(meter.peak) - dbtp;
    expect(error).toBeLessThanOrEqual(0.2);
    expect(error).toBeGreaterThanOrEqual(-0.4);
  });
});

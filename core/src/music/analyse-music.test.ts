import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { seededRandom } from "../testing/index.ts";
import { withEndCounted } from "./beats/counted-end.ts";
import { ANALYSIS_SAMPLE_RATE, analyseMusic as analyse, type MonoAudio, readBeatNetwork } from "./index.ts";

const RATE = ANALYSIS_SAMPLE_RATE;
const FILE = readFileSync(new URL("beats/beat-network.bin", import.meta.url));
const network = readBeatNetwork(FILE);
const analyseMusic = (audio: MonoAudio) => analyse(audio, network);

/** Clicks at known times: the oracle is the list that they were made from. */
function clicks(times: readonly number[], seconds: number) {
  const samples = new Float32Array(Math.round(seconds * RATE));
  for (const time of times) {
    const from = Math.round(time * RATE);
    for (let i = 0; i < 400 && from + i < samples.length; i++) {
      samples[from + i]! += 0.8 * Math.sin(i * 0.35) * Math.exp(-i / 80);
    }
  }
  return { samples, sampleRate: RATE };
}

function pulse(bpm: number, from: number, to: number): number[] {
  const times: number[] = [];
  for (let time = from; time < to - 0.1; time += 60 / bpm) times.push(time);
  return times;
}

const distanceToNearest = (time: number, times: readonly number[]): number =>
  Math.min(...times.map((other) => Math.abs(other - time)));

describe("beats of clicks", () => {
  it.each([60, 75, 90, 104.5, 120, 133.3, 150, 180])("finds every click at %d BPM within 10 ms", (bpm) => {
    const truth = pulse(bpm, 0.5, 30);
    const { beats, steady } = analyseMusic(clicks(truth, 30));
    const found = beats.map((beat) => beat.seconds);
    expect(steady).toBe(true);
    for (const time of truth) expect(distanceToNearest(time, found)).toBeLessThan(0.01);
    // Twice as many beats would pass the line above.
    expect(found.length).toBeLessThanOrEqual(truth.length + 1);
  });

  it("finds them after seven seconds of silence and none in it", () => {
    const truth = pulse(110, 7.123, 40);
    const { beats } = analyseMusic(clicks(truth, 40));
    const found = beats.map((beat) => beat.seconds);
    for (const time of truth) expect(distanceToNearest(time, found)).toBeLessThan(0.01);
    expect(found[0]).toBeGreaterThan(7.1);
  });

  it("follows a change of tempo from 100 to 130", () => {
    const truth = [...pulse(100, 0.4, 24), ...pulse(130, 24.4, 50)];
    const { beats } = analyseMusic(clicks(truth, 50));
    const found = beats.map((beat) => beat.seconds);
    const hits = truth.filter((time) => distanceToNearest(time, found) < 0.01);
    // Around the step itself a beat or two may be lost.
    expect(hits.length).toBeGreaterThanOrEqual(truth.length - 4);
  });

  it("counts bars of three where every third click is low and strong", () => {
    const truth = pulse(140, 0.5, 40);
    const audio = clicks(truth, 40);
    for (const [i, time] of truth.entries()) {
      if (i % 3 !== 1) continue;
      const from = Math.round(time * RATE);
      for (let n = 0; n < 6000; n++) audio.samples[from + n]! += 0.6 * Math.sin(n * 0.01) * Math.exp(-n / 2000);
    }
    const { meter, bars } = analyseMusic(audio);
    expect(meter).toBe("3/4");
    expect(distanceToNearest(itemAt(truth, 1), bars)).toBeLessThan(0.02);
  });
});

describe("the end of a song", () => {
  const beat = (seconds: number, position: number) => ({
    hop: Math.round(seconds * 100),
    position,
    beatsPerBar: 4,
    entersTime: false,
    seconds,
    heard: 1,
    likely: 1,
  });
  const heard = [beat(10, 1), beat(10.5, 2)];

  it("is counted to the last sound that is struck in time, over what is missing between", () => {
    // 11.02 is in time (60 ms of a beat of 500 ms), 11.3 is not, 12.06 is where the slower pulse is
    // due.
    const counted = withEndCounted(heard, [9.9, 10.5, 11.02, 11.3, 12.06], 20);
    expect(counted.map(({ position }) => position)).toEqual([1, 2, 3, 4, 1]);
    expect(itemAt(counted, 4).seconds).toBeCloseTo(12.06, 9);
    expect(counted.slice(2).every((one) => one.heard === 0)).toBe(true);
  });

  it("is where the network heard it if nothing is struck in time, and never behind the sound's end or two bars", () => {
    expect(withEndCounted(heard, [10.75, 11.25], 20)).toEqual(heard);
    expect(withEndCounted(heard, [11, 11.5], 11)).toEqual(heard);
    const onsets = Array.from({ length: 60 }, (_, i) => 10 + 0.5 * i);
    expect(withEndCounted(heard, onsets, 40)).toHaveLength(2 + 8);
    expect(withEndCounted([], onsets, 40)).toEqual([]);
  });
});

describe("what is no music", () => {
  const noise = seededRandom(5);
  it.each([
    ["nothing at all", new Float32Array(0)],
    ["silence", new Float32Array(RATE * 8)],
    ["one second of clicks", clicks([0.1, 0.6], 1).samples],
    ["half a minute of noise", Float32Array.from({ length: RATE * 30 }, () => noise() - 0.5)],
    ["two seconds of noise", Float32Array.from({ length: RATE * 2 }, () => noise() - 0.5)],
    ["a single sample", Float32Array.of(0.5)],
  ])("has no beats: %s", (_name, samples) => {
    const analysis = analyseMusic({ samples, sampleRate: RATE });
    expect(analysis).toMatchObject({ steady: false, beats: [], bars: [], tempoBpm: null, meter: null });
    expect(analysis.durationSeconds).toBeCloseTo(samples.length / RATE, 6);
  });

  it("hears where the music ends, before a silent tail", () => {
    const { musicEndSeconds } = analyseMusic(clicks(pulse(120, 0.5, 20), 30));
    expect(musicEndSeconds).toBeGreaterThan(19.3);
    expect(musicEndSeconds).toBeLessThan(20.2);
  });
});

describe("the file of the beat network", () => {
  it.each([
    ["nothing", 0],
    ["a piece of its header", 20],
    ["all but its last number", FILE.length - 2],
  ])("is refused where there is only %s", (_, length) => {
    expect(() => readBeatNetwork(FILE.subarray(0, length))).toThrow(/beat network cannot be used: .*Install/);
  });
});

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, lastOf, present } from "../presence/index.ts";
import { propertyRuns, seededRandom } from "../testing/index.ts";
import {
  type GainCurve,
  gainAt,
  gainProduct,
  memorySource,
  musicLevel,
  resampled,
  risingPower,
  SoundMixer,
  type SoundPiece,
  type SoundPlan,
  STRETCH_HOP,
  TimeStretch,
} from "./index.ts";

describe("the end of the music", () => {
  const bars = Array.from({ length: 60 }, (_, i) => 0.4 + i * 2);

  it("fades from the last bar start that leaves it time, down to nothing at the film's last sample", () => {
    const { gain, fadeOut } = musicLevel(100, bars);
    expect(fadeOut).toEqual({ startSeconds: 98.4, endSeconds: 100 });
    expect(gainAt(gain, 98.4)).toBe(1);
    expect(gainAt(gain, 50)).toBe(1);
    expect(gainAt(gain, 100)).toBe(0);
    for (let t = 98.4; t < 100; t += 0.01) expect(gainAt(gain, t + 0.01)).toBeLessThan(gainAt(gain, t));
  });

  it("passes over a bar start that would leave less than 1.5 s", () => {
    expect(musicLevel(99.9, bars).fadeOut.startSeconds).toBe(98.4);
    expect(musicLevel(99.8, bars).fadeOut.startSeconds).toBe(96.4);
  });

  it("fades the last three seconds without bars, half of a film shorter than six, and where a person said so", () => {
    expect(musicLevel(60, []).fadeOut.startSeconds).toBe(57);
    expect(musicLevel(2, []).fadeOut.startSeconds).toBe(1);
    expect(musicLevel(100, bars, 90).fadeOut.startSeconds).toBe(90);
  });
});

const anyCurve: fc.Arbitrary<GainCurve> = fc
  .uniqueArray(
    fc.record({
      seconds: fc.double({ min: 0, max: 9, noNaN: true }),
      gain: fc.double({ min: 0, max: 2, noNaN: true }),
    }),
    {
      maxLength: 6,
      selector: (point) => Math.round(point.seconds * 100),
    },
  )
  .map((points) => points.sort((a, b) => a.seconds - b.seconds));

describe("gain curves", () => {
  it("multiply exactly at all of their points", () => {
    fc.assert(
      fc.property(anyCurve, anyCurve, (a, b) => {
        const product = gainProduct([a, b]);
        for (const { seconds } of [...a, ...b]) {
          expect(gainAt(product, seconds)).toBeCloseTo(gainAt(a, seconds) * gainAt(b, seconds), 9);
        }
      }),
      { numRuns: propertyRuns },
    );
  });

  it("rise with equal power: sine and cosine squares add up to one between their points as well", () => {
    const rise = risingPower(3, 5);
    for (let t = 3; t < 5; t += 0.013) {
      expect(gainAt(rise, t)).toBeCloseTo(Math.sin(((t - 3) / 2) * (Math.PI / 2)), 3);
    }
  });
});

const RATE = 1000;
const noise = (seed: number, length: number): Float32Array => {
  const random = seededRandom(seed);
  return Float32Array.from({ length }, () => random() - 0.5);
};
const plan = (pieces: readonly SoundPiece[], lengthSeconds: number, gain: GainCurve = []): SoundPlan => ({
  pieces,
  lengthSeconds,
  musicGain: gain,
  fadeOut: { startSeconds: lengthSeconds, endSeconds: lengthSeconds },
  master: null,
});
const straight = (film: number, song: number, length: number, gain: GainCurve = []): SoundPiece => ({
  owner: { kind: "song", id: "song" },
  soundName: "song",
  time: [
    { filmSeconds: film, soundSeconds: song },
    { filmSeconds: film + length, soundSeconds: song + length },
  ],
  gain,
});

describe("mixing", () => {
  const song = noise(1, 10 * RATE);
  const source = memorySource([song, song.map((sample) => -sample)]);
  const mixer = (sound: SoundPlan): SoundMixer => new SoundMixer(sound, RATE, () => source);

  it("adds up what a sum over all pieces, sample by sample, gives", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(5000), fc.nat(6000), fc.integer({ min: 1, max: 3000 }), anyCurve), { maxLength: 4 }),
        anyCurve,
        (list, master) => {
          const pieces = list.map(([film, from, length, gain]) =>
            straight(film / RATE, from / RATE, length / RATE, gain),
          );
          const [left] = mixer(plan(pieces, 8, master)).render(0, 8 * RATE);
          for (let i = 0; i < left.length; i += 7) {
            let sum = 0;
            for (const [film, from, length, gain] of list) {
              if (i >= film && i < film + length) sum += itemAt(song, from + i - film) * gainAt(gain, i / RATE);
            }
            expect(left[i]).toBeCloseTo(sum * gainAt(master, i / RATE), 4);
          }
        },
      ),
      { numRuns: 100 },
    );
  });

  it("gives the same sound in one piece and in many, also where it is stretched and resampled", () => {
    const stretched: SoundPiece = {
      owner: { kind: "song", id: "song" },
      soundName: "song",
      time: [
        { filmSeconds: 0.5, soundSeconds: 1 },
        { filmSeconds: 1.5, soundSeconds: 2 },
        { filmSeconds: 3.5, soundSeconds: 4.2 },
        { filmSeconds: 5.5, soundSeconds: 6.6 },
        { filmSeconds: 7, soundSeconds: 8.1 },
        { filmSeconds: 8, soundSeconds: 9.105 },
      ],
      gain: risingPower(1, 2),
    };
    const sound = plan([stretched, straight(2, 0, 5)], 8, musicLevel(8, []).gain);
    const [whole] = mixer(sound).render(0, 8500);
    const pieces = new Float32Array(8500);
    const again = mixer(sound);
    for (const from of [6000, 0, 3000, 333, 7001]) {
      const to = Math.min(8500, present([333, 3000, 6000, 7001, 8500].find((edge) => edge > from)));
      pieces.set(again.render(from, to - from)[0], from);
    }
    for (let i = 0; i < 8500; i++) expect(Math.abs(itemAt(pieces, i) - itemAt(whole, i))).toBeLessThan(1e-5);
    // Behind its end and before its beginning there is silence; where the song plays as recorded it
    // is the song.
    expect(whole.subarray(8000).every((sample) => sample === 0)).toBe(true);
    const [alone] = mixer(plan([{ ...stretched, gain: [] }], 8)).render(0, 8000);
    expect(alone.subarray(0, 500).every((sample) => sample === 0)).toBe(true);
    expect(alone.subarray(500, 1500)).toEqual(song.subarray(1000, 2000));
    expect(alone.subarray(5500, 7000)).toEqual(song.subarray(6600, 8100));
  });
});

/** How often a signal rises through zero in a second: its frequency, if it is a sine. */
function frequencyOf(samples: Float32Array, sampleRate: number): number {
  const rises: number[] = [];
  for (let i = 1; i < samples.length; i++) {
    const [before, after] = [itemAt(samples, i - 1), itemAt(samples, i)];
    if (before < 0 && after >= 0) rises.push(i - after / (after - before));
  }
  return ((rises.length - 1) * sampleRate) / (lastOf(rises) - itemAt(rises, 0));
}

describe("another speed", () => {
  const sampleRate = 48_000;
  const tone = Float32Array.from({ length: 4 * sampleRate }, (_, i) => Math.sin((2 * Math.PI * 440 * i) / sampleRate));
  const source = memorySource([tone, tone]);

  it.each([0.5, 0.7, 0.9, 1.1, 1.25])("of %d keeps the pitch of a tone and its loudness", (speed) => {
    const stretch = new TimeStretch(source, (frame) => sampleRate / 2 + frame * speed);
    const out = new Float32Array(60 * STRETCH_HOP);
    for (let hop = 0; hop < 60; hop++) out.set(stretch.next()[0], hop * STRETCH_HOP);
    expect(frequencyOf(out, sampleRate)).toBeCloseTo(440, 0);
    const power = out.reduce((sum, sample) => sum + sample * sample, 0) / out.length;
    expect(power).toBeCloseTo(0.5, 1);
    // No jump between neighbouring samples larger than the tone itself makes: no click.
    const steepest = (2 * Math.PI * 440) / sampleRate;
    for (let i = 1; i < out.length; i++)
      expect(Math.abs(itemAt(out, i) - itemAt(out, i - 1))).toBeLessThan(1.3 * steepest);
  });

  it("of 1 gives the very samples", () => {
    const music = noise(3, sampleRate);
    const stretch = new TimeStretch(memorySource([music, music]), (frame) => 5000 + frame);
    for (let hop = 0; hop < 5; hop++) {
      const [left] = stretch.next();
      for (let i = 0; i < STRETCH_HOP; i++) expect(left[i]).toBeCloseTo(itemAt(music, 5000 + hop * STRETCH_HOP + i), 6);
    }
  });

  it("puts clicks within 11 ms of where the tempo wants them", () => {
    const clicks = new Float32Array(4 * sampleRate);
    for (let second = 0.5; second < 4; second += 0.5) clicks.fill(0.9, second * sampleRate, second * sampleRate + 40);
    const stretch = new TimeStretch(memorySource([clicks, clicks]), (frame) => frame * 0.75);
    const out = new Float32Array(220 * STRETCH_HOP);
    for (let hop = 0; hop < 220; hop++) out.set(stretch.next()[0], hop * STRETCH_HOP);
    for (let second = 0.5; second < 3; second += 0.5) {
      const wanted = (second / 0.75) * sampleRate;
      const near = out.subarray(wanted - 2000, wanted + 2000);
      const loudest = near.reduce((best, sample, i) => (sample > itemAt(near, best) ? i : best), 0);
      expect(Math.abs(loudest - 2000)).toBeLessThan(0.011 * sampleRate + STRETCH_HOP / 4);
    }
  });

  it("of a tape moves pitch and time by the same share, to 80 dB", () => {
    const [out] = resampled(source, 1000.25, 1.009, sampleRate);
    for (let i = 0; i < out.length; i += 101) {
      const exact = Math.sin((2 * Math.PI * 440 * (1000.25 + i * 1.009)) / sampleRate);
      expect(Math.abs(itemAt(out, i) - exact)).toBeLessThan(1e-4);
    }
  });
});

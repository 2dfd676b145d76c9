import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { propertyRuns, seededNormal, seededRandom } from "../testing/index.ts";
import {
  type ClipSeries,
  CrowdMeter,
  type CrowdSound,
  clipProposal,
  LONG_CLIP_SECONDS,
  proposedPart,
  STRETCH_SECONDS,
  WATCHED_RATE,
  type WatchedClip,
  watchedSize,
} from "./index.ts";

const RATE = 48_000;

interface Filmed {
  readonly seconds: number;
  /** Instants at which something moves most. */
  readonly peaks?: readonly number[];
  readonly shakyUntil?: number;
  readonly shakyFrom?: number;
  readonly darkUntil?: number;
  readonly stillUntil?: number;
}

/** What is seen of a clip filmed by hand: numbers as ClipWatch gives them. */
function seen({
  seconds,
  peaks = [],
  shakyUntil = 0,
  shakyFrom = seconds,
  darkUntil = 0,
  stillUntil = 0,
}: Filmed): ClipSeries {
  const normal = seededNormal(seededRandom(3));
  const steps = Math.round(seconds * WATCHED_RATE);
  const at = (step: number): number => step / WATCHED_RATE;
  const times = Array.from({ length: steps }, (_, step) => at(step));
  return {
    movement: times.map((time) =>
      time < stillUntil
        ? 0
        : 2 +
          0.15 * Math.abs(normal()) +
          peaks.reduce((sum, peak) => sum + 8 * Math.exp(-0.5 * ((time - 0.5 / WATCHED_RATE - peak) / 0.15) ** 2), 0),
    ),
    cameraX: times.map((time) => (time < shakyUntil || time > shakyFrom ? 0.4 : 0.01) * normal()),
    cameraY: times.map((time) => (time < shakyUntil || time > shakyFrom ? 0.4 : 0.01) * normal()),
    brightness: times.map((time) => (time < darkUntil ? 2 : 110)),
  };
}

const clip = (filmed: Filmed, more: Partial<WatchedClip> = {}): WatchedClip => ({
  seen: seen(filmed),
  heard: null,
  faces: [],
  ...more,
});

/** Levels of a room in which somebody talks, with a cheer at a second. */
function heard(seconds: number, cheerSeconds: number): CrowdSound {
  const [random, normal] = [seededRandom(8), seededNormal(seededRandom(9))];
  const meter = new CrowdMeter(RATE);
  const samples = new Float32Array(seconds * RATE);
  let isSyllable = false;
  for (let i = 0; i < samples.length; i++) {
    if (i % 9600 === 0) isSyllable = random() < 0.6;
    const time = i / RATE;
    const loud = time >= cheerSeconds ? 0.2 : 0;
    const word = isSyllable && i % 9600 < 7000 ? 0.15 : 0;
    // A bump: low and short.
    const bump = i % 120_000 < 4000 ? 0.5 * Math.sin((2 * Math.PI * 70 * i) / RATE) : 0;
    // Pulses of a voice: many harmonics, no noise.
    samples[i] = (0.002 + loud) * normal() + word * ((i % 400) / 200 - 1) + bump;
  }
  meter.add(samples, samples);
  return meter.result();
}

describe("a clip's moments", () => {
  it("lie where movement peaks, the strongest first", () => {
    const { moments } = clipProposal(clip({ seconds: 10, peaks: [3, 7.2] }));
    const kinds = moments.map(({ kind }) => kind);
    expect(kinds).toEqual(["movement", "movement"]);
    expect(moments.map(({ seconds }) => Math.round(seconds * 10) / 10).sort()).toEqual([3, 7.2]);
  });

  it("are none where all moves alike, and none of a flash", () => {
    const even = seen({ seconds: 8 });
    expect(clipProposal(clip({ seconds: 8 })).moments).toEqual([]);
    const flashed = even.movement.map((value, step) => (step === 100 || step === 101 ? 40 : value));
    expect(clipProposal({ ...clip({ seconds: 8 }), seen: { ...even, movement: flashed } }).moments).toEqual([]);
  });

  it("lie where a cheer begins, not where somebody speaks or bumps against the camera", () => {
    const { moments } = clipProposal(clip({ seconds: 10 }, { heard: heard(10, 6) }));
    expect(moments.map(({ kind }) => kind)).toEqual(["crowd"]);
    expect(Math.abs((moments[0]?.seconds ?? 0) - 6)).toBeLessThan(0.1);
    expect(clipProposal(clip({ seconds: 10 }, { heard: heard(10, 99) })).moments).toEqual([]);
  });

  it("lie where a face is nearest, in the middle of nearly equal looks; none where it stays as far", () => {
    const sights = (height: (seconds: number) => number) =>
      Array.from({ length: 21 }, (_, i) => ({ seconds: i / 2, height: height(i / 2) }));
    const near = sights((seconds) => (Math.abs(seconds - 6) <= 1 ? 0.4 : 0.15));
    expect(clipProposal(clip({ seconds: 10 }, { faces: near })).moments).toMatchObject([{ kind: "face", seconds: 6 }]);
    expect(clipProposal(clip({ seconds: 10 }, { faces: sights(() => 0.3) })).moments).toEqual([]);
  });
});

describe("a clip's ends", () => {
  it("are left out where they shake or are dark, to a tenth of a second or two", () => {
    const { start, end } = clipProposal(clip({ seconds: 10, shakyUntil: 1.2, shakyFrom: 9 }));
    expect(start?.reason).toBe("shaky");
    expect(Math.abs((start?.seconds ?? 0) - 1.2)).toBeLessThan(0.2);
    expect(Math.abs((end?.seconds ?? 0) - 1)).toBeLessThan(0.2);
    expect(clipProposal(clip({ seconds: 10, darkUntil: 0.8 })).start).toEqual({ reason: "dark", seconds: 0.8 });
  });

  it("stay where nothing is wrong, and a clip that shakes all the time is not cut up", () => {
    expect(clipProposal(clip({ seconds: 10, peaks: [5] }))).toMatchObject({ start: null, end: null });
    expect(clipProposal(clip({ seconds: 10, shakyUntil: 10 }))).toMatchObject({ start: null, end: null });
  });

  it("leave a second of rest before something begins to move", () => {
    const { start } = clipProposal(clip({ seconds: 10, stillUntil: 4, peaks: [6] }));
    expect(start?.reason).toBe("still");
    expect(Math.abs((start?.seconds ?? 0) - 3)).toBeLessThan(0.2);
  });
});

describe("a long clip's stretches", () => {
  it("never overlap, lie within the clip and hold its moments", () => {
    fc.assert(
      fc.property(
        fc.double({ min: LONG_CLIP_SECONDS, max: 90, noNaN: true }),
        fc.array(fc.double({ min: 0.05, max: 0.95, noNaN: true }), { maxLength: 4 }),
        (seconds, shares) => {
          const { stretches } = clipProposal(clip({ seconds, peaks: shares.map((share) => share * seconds) }));
          expect(stretches.length).toBeGreaterThan(0);
          let from = 0;
          for (const { startSeconds, endSeconds, moment } of stretches) {
            expect(startSeconds).toBeGreaterThanOrEqual(from - 1e-9);
            expect(endSeconds - startSeconds).toBeCloseTo(STRETCH_SECONDS, 6);
            expect(endSeconds).toBeLessThanOrEqual(seconds + 0.04);
            if (moment) expect(moment.seconds >= startSeconds && moment.seconds < endSeconds).toBe(true);
            from = endSeconds;
          }
        },
      ),
      { numRuns: propertyRuns / 20 },
    );
  });

  it("are where something happens, and short clips have none", () => {
    const { stretches } = clipProposal(clip({ seconds: 40, peaks: [8, 30] }));
    const holds = (peak: number): boolean =>
      stretches.some(({ startSeconds, endSeconds }) => startSeconds < peak && peak < endSeconds);
    expect([holds(8), holds(30)]).toEqual([true, true]);
    // Around its moment there is more before than behind.
    expect(stretches.map(({ startSeconds }) => Math.round(startSeconds))).toEqual(expect.arrayContaining([4, 26]));
    expect(clipProposal(clip({ seconds: LONG_CLIP_SECONDS - 0.1, peaks: [8] })).stretches).toEqual([]);
  });
});

describe("what the docs say of clips", () => {
  it("is 25 frames a second, 96 pixels long, and stretches of 6 s from clips of 15 s on", () => {
    expect([WATCHED_RATE, watchedSize({ width: 1920, height: 1080 })]).toEqual([25, { width: 96, height: 54 }]);
    expect([LONG_CLIP_SECONDS, STRETCH_SECONDS]).toEqual([15, 6]);
    expect(clipProposal(clip({ seconds: 60, peaks: [5, 20, 35, 50] })).stretches).toHaveLength(3);
  });

  it("is a crowd 6 dB louder than before, as flat as 0.25", () => {
    const crowds = (rise: number, flatness: number): number => {
      const levels = Array.from({ length: 250 }, (_, step) => (step < 125 ? -50 : -50 + rise));
      const sound = { levels, flatness: levels.map(() => flatness) };
      return clipProposal(clip({ seconds: 10 }, { heard: sound })).moments.length;
    };
    expect([crowds(5.5, 0.5), crowds(6.5, 0.5), crowds(12, 0.24), crowds(12, 0.26)]).toEqual([0, 1, 0, 1]);
  });

  it("is a rest of 2.5 s before it counts, and 40 % of a clip before an end is kept", () => {
    const startOf = (filmed: Partial<Filmed>): boolean =>
      clipProposal(clip({ seconds: 10, peaks: [7], ...filmed })).start !== null;
    expect([startOf({ stillUntil: 2.2 }), startOf({ stillUntil: 2.8 })]).toEqual([false, true]);
    expect([startOf({ darkUntil: 3.9 }), startOf({ darkUntil: 4.2 })]).toEqual([true, false]);
  });
});

describe("the part that is proposed", () => {
  it("is the clip without its bad ends, with the strongest moment inside", () => {
    const moments = [
      { kind: "movement", seconds: 0.5, strength: 0.9 },
      { kind: "crowd", seconds: 6, strength: 0.7 },
    ] as const;
    const trims = { start: { reason: "shaky", seconds: 1 }, end: { reason: "dark", seconds: 2 } } as const;
    expect(proposedPart({ moments, ...trims }, 10)).toEqual({ inSeconds: 1, outSeconds: 8, momentSeconds: 6 });
    expect(proposedPart({ moments, start: null, end: null }, 10)).toEqual({
      inSeconds: 0,
      outSeconds: null,
      momentSeconds: 0.5,
    });
    expect(proposedPart({ moments: [], start: null, end: null }, 10)).toBeNull();
  });
});

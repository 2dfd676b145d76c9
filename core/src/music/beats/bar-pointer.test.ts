import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../../presence/index.ts";
import { trackBars } from "./bar-pointer.ts";
import type { BeatActivations } from "./beat-network.ts";
import { timeBeats } from "./beat-times.ts";
import { levelDoubt } from "./level-doubt.ts";

/** Nothing is known before the network is asked. */
const UNKNOWN = new Float32Array(0);

interface TrueBeat {
  readonly seconds: number;
  readonly position: number;
}

/**
 * What a network that hears everything would say of these beats; `silent` ones it does not hear.
 */
function activationsOf(
  beats: readonly TrueBeat[],
  seconds: number,
  silent: ReadonlySet<number> = new Set(),
): BeatActivations {
  const frameCount = Math.ceil(seconds / 0.02);
  const [beat, barStart, place] = [4, 4, 0].map((low) => new Float32Array(frameCount).fill(-low)) as [
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  for (const [i, { seconds: at, position }] of beats.entries()) {
    if (silent.has(i)) continue;
    const frame = Math.round((at - 0.005) / 0.02);
    for (const [offset, odds] of [
      [-1, -0.2],
      [1, -0.2],
      [0, 3],
    ] as const) {
      if (frame + offset < 0 || frame + offset >= frameCount) continue;
      beat[frame + offset] = odds;
      if (position === 1) barStart[frame + offset] = odds - 0.2;
      place[frame + offset] = (at - 0.005) / 0.02 - frame - offset;
    }
  }
  return { frameCount, beat, barStart, sectionStart: new Float32Array(frameCount).fill(-4), place };
}

/** Beats at tempos given for each, the first `upbeats` of them before the first bar. */
function truth(gaps: readonly number[], perBar: number, upbeats = 0, from = 0.5): TrueBeat[] {
  let seconds = from;
  return gaps.map((gap, i) => {
    const beat = { seconds, position: ((((i - upbeats) % perBar) + perBar) % perBar) + 1 };
    seconds += gap;
    return beat;
  });
}

const heard = (beats: readonly TrueBeat[], seconds: number, silent?: ReadonlySet<number>) => {
  const activations = activationsOf(beats, seconds, silent);
  return timeBeats(trackBars(activations, UNKNOWN), activations, UNKNOWN);
};

function expectSame(found: readonly TrueBeat[], beats: readonly TrueBeat[], tolerance = 0.002): void {
  expect(found.map((beat) => beat.position)).toEqual(beats.map((beat) => beat.position));
  found.forEach((beat, i) => expect(Math.abs(beat.seconds - itemAt(beats, i).seconds)).toBeLessThan(tolerance));
}

describe("the bar pointer", () => {
  it("finds the beats and bars that are there: any tempo, meter and upbeat", () => {
    const songs = fc.record({
      bpm: fc.double({ min: 44, max: 210, noNaN: true }),
      perBar: fc.constantFrom(2, 3, 4, 5),
      upbeats: fc.nat({ max: 4 }),
    });
    fc.assert(
      fc.property(songs, ({ bpm, perBar, upbeats }) => {
        const beats = truth(new Array<number>(40).fill(60 / bpm), perBar, upbeats % perBar);
        expectSame(heard(beats, (60 / bpm) * 40 + 1), beats);
      }),
      { numRuns: 40 },
    );
  });

  it("follows a tempo that drifts, steps by a fifth, and slows down at the end", () => {
    const drifting = Array.from({ length: 60 }, (_, i) => 0.5 * (1 + 0.05 * Math.sin(i / 7)));
    const stepping = Array.from({ length: 60 }, (_, i) => (i < 31 ? 0.5 : 0.41));
    const slowing = Array.from({ length: 60 }, (_, i) => 0.5 * (i < 48 ? 1 : 1 + 0.035 * (i - 48)));
    for (const gaps of [drifting, stepping, slowing]) {
      const beats = truth(gaps, 4);
      expectSame(heard(beats, 40), beats);
    }
  });

  it("goes on evenly through a rest of three beats", () => {
    const beats = truth(new Array<number>(40).fill(0.55), 4);
    expectSame(heard(beats, 24, new Set([17, 18, 19])), beats, 0.006);
  });

  it("changes the meter where the bars do", () => {
    const four = truth(new Array<number>(24).fill(0.5), 4);
    const three = truth(new Array<number>(36).fill(0.5), 3, 0, 12.5);
    expectSame(heard([...four, ...three], 31), [...four, ...three]);
  });

  it("has no beats where none is heard, and says where time sets in again", () => {
    const first = truth(new Array<number>(30).fill(0.5), 4);
    const second = truth(new Array<number>(30).fill(0.6), 4, 0, 32);
    const found = heard([...first, ...second], 52);
    expectSame(found, [...first, ...second]);
    expect(found.flatMap((beat, i) => (beat.entersTime ? [i] : []))).toEqual([0, 30]);
    expect(heard([], 20)).toEqual([]);
    expect(heard([], 0)).toEqual([]);
  });
});

describe("the level of the beat", () => {
  /** At 160 beats a minute half and a third can be tapped, at 80 twice. */
  const fast = truth(new Array<number>(40).fill(0.375), 4);
  const slow = truth(new Array<number>(40).fill(0.75), 4);
  /** Makes every n-th beat less probable, or something half way between beats more so. */
  const doubtOf = (beats: readonly TrueBeat[], change: (activations: BeatActivations) => void) => {
    const activations = activationsOf(beats, 32);
    const timed = timeBeats(trackBars(activations, UNKNOWN), activations, UNKNOWN);
    change(activations);
    const again = timed.map((beat) => ({
      ...beat,
      heard: 1 / (1 + Math.exp(-itemAt(activations.beat, Math.round((beat.seconds - 0.005) / 0.02)))),
    }));
    return levelDoubt(again, activations);
  };
  const weaken = (beats: readonly TrueBeat[], n: number) => (activations: BeatActivations) => {
    for (const [i, beat] of beats.entries())
      if (i % n !== 0) activations.beat[Math.round((beat.seconds - 0.005) / 0.02)] = 0.8;
  };

  it("is sure where all beats are alike, and asks where every second or third stands out or something lies between", () => {
    for (const beats of [fast, slow]) expect(doubtOf(beats, () => undefined)).toBeNull();
    expect(doubtOf(fast, weaken(fast, 2))).toBe("half");
    expect(doubtOf(fast, weaken(fast, 3))).toBe("third");
    const between = (beats: readonly TrueBeat[]) => (activations: BeatActivations) => {
      const half = (itemAt(beats, 1).seconds - itemAt(beats, 0).seconds) / 2;
      for (const beat of beats) activations.beat[Math.round((beat.seconds + half - 0.005) / 0.02)] = 0;
    };
    expect(doubtOf(slow, between(slow))).toBe("twice");
    // Nobody would tap over 185, under 75 in the place of twice as fast, or under 45.
    const at = (bpm: number): TrueBeat[] => truth(new Array<number>(40).fill(60 / bpm), 4);
    const twice = [92, 94].map((bpm) => doubtOf(at(bpm), between(at(bpm))));
    const half = [152, 148].map((bpm) => doubtOf(at(bpm), weaken(at(bpm), 2)));
    const third = [138, 132].map((bpm) => doubtOf(at(bpm), weaken(at(bpm), 3)));
    expect([twice, half, third]).toEqual([
      ["twice", null],
      ["half", null],
      ["third", null],
    ]);
  });
});

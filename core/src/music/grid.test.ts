import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { correctedGrid, type GridEdit, indexOfNearestBeat, type MusicAnalysis } from "./index.ts";

const analysis = (count: number, firstPosition = 1): MusicAnalysis => ({
  durationSeconds: count * 0.5,
  steady: true,
  tempoBpm: 120,
  meter: "4/4",
  beats: Array.from({ length: count }, (_, i) => ({
    seconds: i * 0.5,
    position: ((i + firstPosition - 1) % 4) + 1,
    confidence: 1,
  })),
  bars: [],
  sections: [],
  accents: [],
  energy: { stepSeconds: 0.1, values: [] },
  musicEndSeconds: count * 0.5,
});

const positions = (edits: GridEdit[], count = 9): number[] =>
  correctedGrid(analysis(count), edits).beats.map((beat) => beat.position);

describe("corrections of the grid", () => {
  it("puts a beat between each two, and bars keep their count", () => {
    const { beats } = correctedGrid(analysis(5), [{ kind: "twice" }]);
    expect(beats.map((beat) => beat.seconds)).toEqual([0, 0.25, 0.5, 0.75, 1, 1.25, 1.5, 1.75, 2]);
    expect(beats.map((beat) => beat.position)).toEqual([1, 2, 3, 4, 1, 2, 3, 4, 1]);
  });

  it("keeps the half that holds the bar starts", () => {
    const { beats } = correctedGrid(analysis(9, 4), [{ kind: "half" }]);
    expect(beats.map((beat) => beat.seconds)).toEqual([0.5, 1.5, 2.5, 3.5]);
    expect(beats[0]!.position).toBe(1);
  });

  it("starts bars where the person says, to both sides", () => {
    expect(positions([{ kind: "oneHere", seconds: 1.02 }])).toEqual([3, 4, 1, 2, 3, 4, 1, 2, 3]);
  });

  it("gives the same beats back after twice and half, and after opposite nudges", () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 60 }), fc.integer({ min: -500, max: 500 }), (count, milliseconds) => {
        const original = analysis(count).beats.map((beat) => beat.seconds);
        const there = correctedGrid(analysis(count), [{ kind: "twice" }, { kind: "half" }]).beats;
        expect(there.map((beat) => beat.seconds)).toEqual(original);
        const back = correctedGrid(analysis(count), [
          { kind: "nudge", milliseconds },
          { kind: "nudge", milliseconds: -milliseconds },
        ]).beats;
        back.forEach((beat, i) => expect(beat.seconds).toBeCloseTo(original[i]!, 9));
      }),
    );
  });

  it("leaves songs without beats alone", () => {
    const none = { ...analysis(0), meter: null };
    const edits: GridEdit[] = [{ kind: "twice" }, { kind: "half" }, { kind: "oneHere", seconds: 3 }];
    expect(correctedGrid(none, edits).beats).toEqual([]);
  });

  it("finds the nearest beat as a search through all would, the earlier of two equally near", () => {
    const times = fc.uniqueArray(fc.integer({ min: 0, max: 400 }), { minLength: 1, maxLength: 40 });
    fc.assert(
      fc.property(times, fc.integer({ min: -10, max: 410 }), (all, at) => {
        const beats = all.sort((a, b) => a - b).map((seconds) => ({ seconds }));
        let best = 0;
        beats.forEach((beat, i) => {
          if (Math.abs(beat.seconds - at) < Math.abs(beats[best]!.seconds - at)) best = i;
        });
        expect(indexOfNearestBeat(beats, at)).toBe(best);
      }),
    );
    expect(indexOfNearestBeat([], 1)).toBe(-1);
  });
});

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { present } from "../presence/index.ts";
import type { SongSection } from "../show/index.ts";
import { propertyRuns, steadySong } from "../testing/index.ts";
import { counterpartSeconds, type SongWithAnalysis } from "./counterpart.ts";

type Role = SongSection["role"];

/** A song at so many seconds a beat; each section has so many bars of four. */
function songOf(secondsPerBeat: number, sections: readonly (readonly [letter: string, bars: number, role: Role])[]) {
  let bar = 0;
  const placed = sections.map(([letter, bars, role]) => {
    const section = { startSeconds: bar * 4 * secondsPerBeat, letter, name: "", role };
    bar += bars;
    return section;
  });
  const analysis = steadySong(bar, secondsPerBeat);
  const heard = placed.map(({ startSeconds, letter }, i) => ({
    startSeconds,
    endSeconds: placed[i + 1]?.startSeconds ?? bar * 4 * secondsPerBeat,
    label: letter,
  }));
  return {
    song: { gridEdits: [], sections: sections.some(([, , role]) => role !== null) ? placed : null },
    analysis: { ...analysis, sections: heard },
  } satisfies SongWithAnalysis;
}

const slow = songOf(0.5, [
  ["A", 4, "intro"],
  ["B", 8, "verse"],
  ["C", 8, "chorus"],
  ["B", 8, "verse"],
  ["C", 8, "chorus"],
]);
const quick = songOf(0.4, [
  ["A", 8, "verse"],
  ["B", 8, "chorus"],
  ["A", 4, "verse"],
  ["B", 16, "chorus"],
]);

describe("the counterpart of a place in another song", () => {
  it("is the same beat of the same bar of the same section", () => {
    // The third beat of the second bar of the second chorus: 28 bars and six beats in, 20 bars and
    // six beats there.
    expect(counterpartSeconds((28 * 4 + 6) * 0.5, slow, quick)).toBeCloseTo((20 * 4 + 6) * 0.4, 9);
    // Half way between two beats stays half way.
    expect(counterpartSeconds((4 * 4 + 1.5) * 0.5, slow, quick)).toBeCloseTo(1.5 * 0.4, 9);
  });

  it("is null where the other song has no such section, or not so many bars of it", () => {
    expect(counterpartSeconds(0.5, slow, quick)).toBeNull();
    // The sixth bar of the second verse, which has four bars there.
    expect(counterpartSeconds((20 + 5) * 4 * 0.5, slow, quick)).toBeNull();
    const noMusic = { ...quick, analysis: { ...quick.analysis, beats: [], bars: [], sections: [] } };
    expect(counterpartSeconds(10, slow, noMusic)).toBeNull();
    expect(counterpartSeconds(10, noMusic, slow)).toBeNull();
  });

  it("goes by letters where one of the songs has no roles", () => {
    const unnamed = songOf(0.4, [
      ["A", 4, null],
      ["C", 8, null],
    ]);
    // The chorus has the letter C.
    expect(counterpartSeconds(12 * 4 * 0.5, slow, unnamed)).toBeCloseTo(4 * 4 * 0.4, 9);
    expect(counterpartSeconds(4 * 4 * 0.5, slow, unnamed)).toBeNull();
  });

  it("tells a section that has no role by its letter, beside others that have one", () => {
    const mixed = songOf(0.4, [
      ["A", 4, "verse"],
      ["D", 4, null],
      ["C", 8, null],
    ]);
    const other = songOf(0.5, [
      ["C", 4, null],
      ["A", 8, "verse"],
    ]);
    // The second bar of C, and not of the first section without a role.
    expect(counterpartSeconds((8 + 1) * 4 * 0.4, mixed, other)).toBeCloseTo(4 * 0.5, 9);
    expect(counterpartSeconds(5 * 4 * 0.4, mixed, other)).toBeNull();
  });

  it("of a song in itself is the place itself, and there and back again is where it was", () => {
    const places = fc.double({ min: 0, max: 36 * 4 * 0.5 - 0.05, noNaN: true });
    fc.assert(
      fc.property(places, (seconds) => {
        expect(counterpartSeconds(seconds, slow, slow)).toBeCloseTo(seconds, 1);
        const there = counterpartSeconds(seconds, slow, quick);
        if (there === null) return;
        const back = counterpartSeconds(there, quick, slow);
        expect(Math.abs(present(back) - seconds)).toBeLessThan(0.05);
      }),
      { numRuns: propertyRuns },
    );
  });
});

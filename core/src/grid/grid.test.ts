import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { anyBeatLevel, musicAnalysis, propertyRuns, steadyBeats } from "../testing/index.ts";
import { correctedGrid, type GridEdit, indexOfNearestBeat } from "./index.ts";

/** Beats every half second in bars of four. */
const analysis = (count: number, firstPosition = 1) =>
  musicAnalysis({ durationSeconds: count * 0.5, beats: steadyBeats(count, 4, firstPosition) });

const gridAfter = (edits: GridEdit[], count = 9, firstPosition = 1) =>
  correctedGrid(analysis(count, firstPosition), edits);
const positions = (edits: GridEdit[], count = 9): number[] =>
  gridAfter(edits, count).beats.map((beat) => beat.position);
const times = (edits: GridEdit[], count = 9): number[] => gridAfter(edits, count).beats.map((beat) => beat.seconds);

describe("level and phase", () => {
  it("puts a beat between each two, and bars keep their count", () => {
    expect(times([{ kind: "twice" }], 5)).toEqual([0, 0.25, 0.5, 0.75, 1, 1.25, 1.5, 1.75, 2]);
    expect(positions([{ kind: "twice" }], 5)).toEqual([1, 2, 3, 4, 1, 2, 3, 4, 1]);
  });

  it("puts two beats between each two", () => {
    expect(times([{ kind: "triple" }], 3).map((time) => Math.round(time * 600))).toEqual([
      0, 100, 200, 300, 400, 500, 600,
    ]);
  });

  it("keeps the half that holds the bar starts", () => {
    const { beats } = gridAfter([{ kind: "half" }], 9, 4);
    expect(beats.map((beat) => beat.seconds)).toEqual([0.5, 1.5, 2.5, 3.5]);
    expect(itemAt(beats, 0).position).toBe(1);
  });

  it("keeps every third beat, and gives back what was there before the triple", () => {
    expect(times([{ kind: "third" }], 13)).toEqual([0, 1.5, 3, 4.5, 6]);
    expect(times([{ kind: "triple" }, { kind: "third" }], 9)).toEqual(times([], 9));
  });

  it("starts bars where the person says, to both sides", () => {
    expect(positions([{ kind: "oneHere", seconds: 1.02 }])).toEqual([3, 4, 1, 2, 3, 4, 1, 2, 3]);
  });

  it("counts on from a second one without touching what is before it", () => {
    const edits: GridEdit[] = [
      { kind: "oneHere", seconds: 0 },
      { kind: "oneHere", seconds: 3 },
    ];
    expect(positions(edits, 12)).toEqual([1, 2, 3, 4, 1, 2, 1, 2, 3, 4, 1, 2]);
    // A correction between the two stops at the second.
    expect(positions([...edits, { kind: "oneHere", seconds: 0.5 }], 12)).toEqual([1, 1, 2, 3, 4, 1, 1, 2, 3, 4, 1, 2]);
  });

  it("changes the meter from a bar on", () => {
    expect(positions([{ kind: "meter", beatsPerBar: 3, seconds: 0 }])).toEqual([1, 2, 3, 1, 2, 3, 1, 2, 3]);
    const later = gridAfter([{ kind: "meter", beatsPerBar: 3, seconds: 2.6 }], 12);
    expect(later.beats.map((beat) => beat.position)).toEqual([1, 2, 3, 4, 1, 2, 3, 1, 2, 3, 1, 2]);
    expect(later.beatsPerBar).toBe(4);
  });
});

describe("moving beats", () => {
  it("moves neighbours less and less, up to the bar start two bars away", () => {
    const moved = times([{ kind: "drag", seconds: 8.01, toSeconds: 8.16 }], 40);
    moved.forEach((time, i) => {
      const away = Math.abs(i - 16);
      expect(time - i * 0.5).toBeCloseTo(away >= 8 ? 0 : 0.16 * (1 - away / 8), 9);
    });
  });

  it("stops at a beat that was dragged before", () => {
    const moved = times(
      [
        { kind: "drag", seconds: 7, toSeconds: 7.1 },
        { kind: "drag", seconds: 8, toSeconds: 8.1 },
      ],
      40,
    );
    expect(moved[14]).toBeCloseTo(7.1, 9);
    expect(moved[15]).toBeCloseTo(7.6 - 0.1 / 8 / 2 + 0.05 / 8, 1);
    expect(moved[16]).toBeCloseTo(8.1, 9);
  });

  it("never drags a beat past its anchors", () => {
    const moved = times([{ kind: "drag", seconds: 8, toSeconds: 30 }], 40);
    expect(moved).toEqual([...moved].sort((a, b) => a - b));
    expect(moved[16]).toBeLessThan(12);
  });

  it("evens out a stretch, with as many beats or at a tempo", () => {
    const bent: GridEdit = { kind: "drag", seconds: 10, toSeconds: 10.2 };
    const even = times([bent, { kind: "fixedTempo", startSeconds: 6, endSeconds: 14, bpm: null }], 40);
    even.forEach((time, i) => expect(time).toBeCloseTo(i * 0.5, 9));
    const faster = times([{ kind: "fixedTempo", startSeconds: 1, endSeconds: 3, bpm: 150 }]);
    expect(faster.map((time) => Math.round(time * 10))).toEqual([0, 5, 10, 14, 18, 22, 26, 30, 35, 40]);
  });
});

describe("beats that come and go", () => {
  it("takes a beat away, and the next bar still starts where it did", () => {
    expect(times([{ kind: "deleteBeat", seconds: 0.6 }], 6)).toEqual([0, 1, 1.5, 2, 2.5]);
    expect(positions([{ kind: "deleteBeat", seconds: 0.6 }], 6)).toEqual([1, 2, 3, 1, 2]);
    // The last beat of a bar takes no bar start with it.
    expect(positions([{ kind: "deleteBeat", seconds: 1.5 }], 9)).toEqual([1, 2, 3, 1, 2, 3, 4, 1]);
  });

  it("adds a beat, but not on top of another", () => {
    expect(positions([{ kind: "addBeat", seconds: 0.75 }], 6)).toEqual([1, 2, 3, 4, 5, 1, 2]);
    expect(times([{ kind: "addBeat", seconds: 0.55 }], 6)).toHaveLength(6);
  });

  it("has no beats in free time, and knows where that is", () => {
    const free: GridEdit = { kind: "freeTime", startSeconds: 1, endSeconds: 2 };
    const grid = gridAfter([free, { kind: "freeTime", startSeconds: 1.5, endSeconds: 2.5 }]);
    expect(grid.beats.map((beat) => beat.seconds)).toEqual([0, 0.5, 2.5, 3, 3.5, 4]);
    expect(grid.freeTime).toEqual([{ startSeconds: 1, endSeconds: 2.5 }]);
    // Nothing is put between the two beats around it.
    expect(times([free, { kind: "twice" }])).not.toContain(1.25);
  });

  it("puts tapped beats in the place of those that were heard", () => {
    const tapped = gridAfter([{ kind: "tapped", seconds: [1.05, 1.6, 2.1, 2.7] }]);
    expect(tapped.beats.map((beat) => beat.seconds)).toEqual([0, 0.5, 1.05, 1.6, 2.1, 2.7, 3, 3.5, 4]);
    expect(tapped.beats.slice(2, 6).map((beat) => beat.position)).toEqual([3, 4, 1, 2]);
    expect(gridAfter([{ kind: "tapped", seconds: [1, 1.5, 2] }], 0).beats.map((beat) => beat.position)).toEqual([
      1, 2, 3,
    ]);
  });
});

const seconds = fc.double({ min: 0, max: 24, noNaN: true });
const anyGridEdit: fc.Arbitrary<GridEdit> = fc.oneof(
  anyBeatLevel.map((kind): GridEdit => ({ kind })),
  fc.record({
    kind: fc.constant("stretchLevel" as const),
    level: anyBeatLevel,
    startSeconds: seconds,
    endSeconds: seconds,
  }),
  fc.record({ kind: fc.constant("oneHere" as const), seconds }),
  fc.record({ kind: fc.constant("meter" as const), beatsPerBar: fc.integer({ min: 1, max: 7 }), seconds }),
  fc.record({ kind: fc.constant("nudge" as const), milliseconds: fc.integer({ min: -2000, max: 2000 }) }),
  fc.record({ kind: fc.constant("drag" as const), seconds, toSeconds: seconds }),
  fc.record({
    kind: fc.constant("fixedTempo" as const),
    startSeconds: seconds,
    endSeconds: seconds,
    bpm: fc.option(fc.double({ min: 20, max: 400, noNaN: true })),
  }),
  fc.record({ kind: fc.constant("freeTime" as const), startSeconds: seconds, endSeconds: seconds }),
  fc.record({ kind: fc.constantFrom("addBeat" as const, "deleteBeat" as const), seconds }),
  fc
    .uniqueArray(fc.integer({ min: 0, max: 80 }), { minLength: 1, maxLength: 12 })
    .map((list): GridEdit => ({ kind: "tapped", seconds: list.sort((a, b) => a - b).map((step) => step * 0.3) })),
  fc
    .uniqueArray(fc.tuple(fc.integer({ min: 0, max: 80 }), fc.integer({ min: 0, max: 5 })), {
      minLength: 1,
      maxLength: 12,
      selector: ([step]) => step,
    })
    .map(
      (list): GridEdit => ({
        kind: "given",
        beats: list.sort(([a], [b]) => a - b).map(([step, position]) => ({ seconds: step * 0.3, position })),
      }),
    ),
);

describe("another level for a stretch", () => {
  it("changes the beats in it and no others", () => {
    const half: GridEdit = { kind: "stretchLevel", level: "half", startSeconds: 2, endSeconds: 6 };
    expect(times([half], 17)).toEqual([0, 0.5, 1, 1.5, 2, 3, 4, 5, 6, 6.5, 7, 7.5, 8]);
    expect(positions([half], 17)).toEqual([1, 2, 3, 4, 1, 2, 3, 4, 1, 2, 3, 4, 1]);
    const twice: GridEdit = { kind: "stretchLevel", level: "twice", startSeconds: 2, endSeconds: 3 };
    expect(times([twice], 9)).toEqual([0, 0.5, 1, 1.5, 2, 2.25, 2.5, 2.75, 3, 3.5, 4]);
    const empty: GridEdit = { kind: "stretchLevel", level: "half", startSeconds: 3, endSeconds: 3 };
    expect(times([empty])).toEqual(times([]));
  });

  it("is the level of the whole song where the stretch is the whole song", () => {
    fc.assert(
      fc.property(
        anyBeatLevel,
        fc.integer({ min: 2, max: 60 }),
        fc.integer({ min: 1, max: 4 }),
        (level, count, firstPosition) => {
          const stretch: GridEdit = { kind: "stretchLevel", level, startSeconds: 0, endSeconds: 1000 };
          expect(gridAfter([stretch], count, firstPosition)).toEqual(
            gridAfter([{ kind: level }], count, firstPosition),
          );
        },
      ),
      { numRuns: propertyRuns },
    );
  });
});

describe("any corrections in any order", () => {
  it("leave beats in rising order, counted from 1, and none before the song or in free time", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 48 }), fc.array(anyGridEdit, { maxLength: 12 }), (count, edits) => {
        const grid = correctedGrid(analysis(count), edits);
        grid.beats.forEach((beat, i) => {
          expect(beat.seconds).toBeGreaterThanOrEqual(0);
          expect(beat.position).toBeGreaterThanOrEqual(1);
          if (i > 0) expect(beat.seconds).toBeGreaterThan(itemAt(grid.beats, i - 1).seconds);
        });
      }),
      { numRuns: propertyRuns },
    );
  });

  it("mean the same after a better analysis, which finds the beats up to 20 ms elsewhere", () => {
    // A person points near a beat, never half way between two.
    const pointed = fc
      .tuple(fc.integer({ min: 2, max: 38 }), fc.integer({ min: -150, max: 150 }))
      .map(([i, ms]) => i * 0.5 + ms / 1000);
    const pointing: fc.Arbitrary<GridEdit> = fc.oneof(
      fc.record({ kind: fc.constantFrom("oneHere" as const, "deleteBeat" as const), seconds: pointed }),
      fc.constantFrom<GridEdit>({ kind: "half" }, { kind: "twice" }),
    );
    fc.assert(
      fc.property(
        fc.array(pointing, { maxLength: 3 }),
        fc.array(fc.integer({ min: -20, max: 20 }), { minLength: 40, maxLength: 40 }),
        (edits, jitter) => {
          const first = analysis(40);
          const better = {
            ...first,
            beats: first.beats.map((beat, i) => ({ ...beat, seconds: beat.seconds + 0.02 + itemAt(jitter, i) / 1000 })),
          };
          const counts = (music: typeof first): number[] =>
            correctedGrid(music, edits).beats.map((beat) => beat.position);
          // After the others a person points at other beats.
          fc.pre(edits.slice(0, -1).every((edit) => edit.kind === "oneHere"));
          expect(counts(better)).toEqual(counts(first));
        },
      ),
      { numRuns: propertyRuns },
    );
  });

  it("give the same beats back after twice and half, and after opposite nudges", () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 60 }), fc.integer({ min: -500, max: 500 }), (count, milliseconds) => {
        const original = times([], count);
        expect(times([{ kind: "twice" }, { kind: "half" }], count)).toEqual(original);
        const back = times(
          [
            { kind: "nudge", milliseconds },
            { kind: "nudge", milliseconds: -milliseconds },
          ],
          count,
        );
        back.forEach((time, i) => expect(time).toBeCloseTo(itemAt(original, i), 9));
      }),
    );
  });
});

describe("beats of a file", () => {
  const given = (beats: readonly (readonly [seconds: number, position: number])[]): GridEdit => ({
    kind: "given",
    beats: beats.map(([seconds, position]) => ({ seconds, position })),
  });

  it("replace what lies between the first and the last, with the bars that the file tells", () => {
    const { beats, beatsPerBar } = gridAfter([
      given([
        [1.1, 3],
        [1.6, 1],
        [2.1, 2],
        [2.6, 3],
        [3.1, 1],
      ]),
    ]);
    expect(beats.map(({ seconds, position }) => [seconds, position])).toEqual([
      [0, 1],
      [0.5, 2],
      [1.1, 3],
      [1.6, 1],
      [2.1, 2],
      [2.6, 3],
      [3.1, 1],
      [3.5, 4],
      [4, 1],
    ]);
    expect(beatsPerBar).toBe(3);
  });

  it("count on where the file does not say, and double beats are one", () => {
    expect(
      positions([
        given([
          [1, 0],
          [1.01, 0],
          [1.5, 0],
          [2, 0],
        ]),
      ]),
    ).toEqual([1, 2, 3, 4, 1, 2, 3, 4, 1]);
  });
});

it("finds the nearest beat as a search through all would, the earlier of two equally near", () => {
  const places = fc.uniqueArray(fc.integer({ min: 0, max: 400 }), { minLength: 1, maxLength: 40 });
  fc.assert(
    fc.property(places, fc.integer({ min: -10, max: 410 }), (all, at) => {
      const beats = all.sort((a, b) => a - b).map((place) => ({ seconds: place }));
      let best = 0;
      beats.forEach((beat, i) => {
        if (Math.abs(beat.seconds - at) < Math.abs(itemAt(beats, best).seconds - at)) best = i;
      });
      expect(indexOfNearestBeat(beats, at)).toBe(best);
    }),
  );
  expect(indexOfNearestBeat([], 1)).toBe(-1);
});

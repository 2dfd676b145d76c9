import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Doubt } from "../music/index.ts";
import { itemAt } from "../presence/index.ts";
import { anyBeatLevel, musicAnalysis, propertyRuns, steadyBeats } from "../testing/index.ts";
import { correctedGrid, type GridEdit, isAnswered, likelyCorrection } from "./index.ts";

/** 60 beats every half second in bars of four. */
const music = musicAnalysis({ durationSeconds: 30, beats: steadyBeats(60) });
const truth = correctedGrid(music, []);

const doubt = (reason: Doubt["reason"], startSeconds: number, endSeconds: number): Doubt => ({
  startSeconds,
  endSeconds,
  reason,
});
const times = ({ beats }: typeof truth): number[] => beats.map(({ seconds }) => Math.round(seconds * 1000) / 1000);

describe("the likely correction of a doubt", () => {
  it("undoes a level that was heard wrongly for a stretch, wherever it is", () => {
    const undoes = { twice: "half", half: "twice", triple: "third", third: "triple" } as const;
    fc.assert(
      fc.property(
        anyBeatLevel,
        fc.integer({ min: 0, max: 7 }),
        fc.integer({ min: 2, max: 4 }),
        (level, firstBar, bars) => {
          // Twelve beats are a whole number of bars of four, of pairs and of threes.
          const [startSeconds, endSeconds] = [firstBar * 2, Math.min(28, firstBar * 2 + bars * 6)];
          const heard = correctedGrid(music, [{ kind: "stretchLevel", level, startSeconds, endSeconds }]);
          const correction = likelyCorrection(heard, doubt("tempo", startSeconds, endSeconds));
          expect(correction).toEqual({ kind: "stretchLevel", level: undoes[level], startSeconds, endSeconds });
          if (level === "twice" || level === "triple") {
            const mended = correctedGrid(music, [
              { kind: "stretchLevel", level, startSeconds, endSeconds },
              correction as GridEdit,
            ]);
            expect(times(mended)).toEqual(times(truth));
          }
        },
      ),
      { numRuns: propertyRuns },
    );
  });

  it("puts in one beat that was missed, and takes out one too many, wherever it is", () => {
    fc.assert(
      fc.property(fc.integer({ min: 5, max: 50 }), fc.boolean(), (index, isMissed) => {
        const at = index * 0.5;
        const wrong: GridEdit = isMissed
          ? { kind: "deleteBeat", seconds: at }
          : { kind: "stretchLevel", level: "twice", startSeconds: at, endSeconds: at + 0.5 };
        const heard = correctedGrid(music, [wrong]);
        const [startSeconds, endSeconds] = isMissed ? [at - 0.5, at + 0.5] : [at, at + 0.5];
        const correction = likelyCorrection(heard, doubt("tempo", startSeconds, endSeconds));
        const mended = correctedGrid(music, [wrong, correction as GridEdit]);
        expect(times(mended)).toEqual(times(truth));
        // A bar start that was missed is counted anew by a person.
        if (!(isMissed && index % 4 === 0)) {
          expect(mended.beats.map(({ position }) => position)).toEqual(truth.beats.map(({ position }) => position));
        }
      }),
      { numRuns: propertyRuns },
    );
  });

  it("puts the missing beats into a stretch without any", () => {
    const free: GridEdit = { kind: "freeTime", startSeconds: 10.2, endSeconds: 14.2 };
    const heard = correctedGrid(music, [free]);
    const correction = likelyCorrection(heard, doubt("free", 10, 14.2));
    expect(correction).toEqual({ kind: "fixedTempo", startSeconds: 10, endSeconds: 14.2, bpm: 120 });
    expect(times(correctedGrid(music, [free, correction as GridEdit]))).toEqual(times(truth));
  });

  it("evens out beats that shake, and brings back the bar's usual count", () => {
    const shaken = musicAnalysis({
      beats: steadyBeats(60).map((beat, i) => ({ ...beat, seconds: beat.seconds + (i === 21 ? 0.07 : 0) })),
    });
    expect(likelyCorrection(correctedGrid(shaken, []), doubt("tempo", 10, 11.5))).toEqual({
      kind: "fixedTempo",
      startSeconds: 10,
      endSeconds: 11.5,
      bpm: null,
    });
    expect(likelyCorrection(truth, doubt("bar", 10, 10.5))).toEqual({ kind: "meter", beatsPerBar: 4, seconds: 10 });
  });

  it("says nothing where the neighbours do not tell", () => {
    expect(likelyCorrection(truth, doubt("tempo", 0, 30))).toBeNull();
    expect(likelyCorrection({ ...truth, beats: [] }, doubt("free", 0, 30))).toBeNull();
    const odd = correctedGrid(music, [{ kind: "fixedTempo", startSeconds: 10, endSeconds: 14, bpm: 165 }]);
    expect(likelyCorrection(odd, doubt("tempo", 10.3, 13.6))).toBeNull();
  });
});

describe("a doubt that is answered", () => {
  it("is one in which something was corrected", () => {
    const here = doubt("tempo", 10, 14);
    const level = (startSeconds: number, endSeconds: number): GridEdit[] => [
      { kind: "stretchLevel", level: "half", startSeconds, endSeconds },
    ];
    expect(isAnswered(here, [])).toBe(false);
    expect(isAnswered(here, level(13, 20))).toBe(true);
    expect(isAnswered(here, level(14, 20))).toBe(false);
    expect(isAnswered(here, [{ kind: "addBeat", seconds: 12 }])).toBe(true);
    expect(isAnswered(here, [{ kind: "tapped", seconds: [1, 2, itemAt([12], 0)] }])).toBe(true);
    expect(isAnswered(here, [{ kind: "nudge", milliseconds: 10 }])).toBe(false);
    const given = (seconds: number): GridEdit[] => [{ kind: "given", beats: [{ seconds, position: 1 }] }];
    expect([isAnswered(here, given(11)), isAnswered(here, given(15))]).toEqual([true, false]);
  });
});

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Doubt } from "../music/index.ts";
import { itemAt } from "../presence/index.ts";
import { musicAnalysis, propertyRuns, steadyBeats } from "../testing/index.ts";
import { correctedGrid, type GridEdit, isAnswered, likelyMending } from "./index.ts";

/** 60 beats every half second in bars of four. */
const music = musicAnalysis({ durationSeconds: 30, beats: steadyBeats(60) });
const truth = correctedGrid(music, []);

const doubt = (reason: Doubt["reason"], startSeconds: number, endSeconds: number): Doubt => ({
  startSeconds,
  endSeconds,
  reason,
});
const times = ({ beats }: typeof truth): number[] => beats.map(({ seconds }) => Math.round(seconds * 1000) / 1000);

describe("the likely mending of a doubt", () => {
  it("undoes a level that was heard wrongly for a stretch, wherever it is", () => {
    const undoes = { twice: "half", half: "twice", triple: "third", third: "triple" } as const;
    fc.assert(
      fc.property(
        fc.constantFrom("twice" as const, "half" as const, "triple" as const, "third" as const),
        fc.integer({ min: 0, max: 7 }),
        fc.integer({ min: 2, max: 4 }),
        (level, firstBar, bars) => {
          // Twelve beats are a whole number of bars of four, of pairs and of threes.
          const [startSeconds, endSeconds] = [firstBar * 2, Math.min(28, firstBar * 2 + bars * 6)];
          const heard = correctedGrid(music, [{ kind: "stretchLevel", level, startSeconds, endSeconds }]);
          const mending = likelyMending(heard, doubt("tempo", startSeconds, endSeconds));
          expect(mending).toEqual({ kind: "stretchLevel", level: undoes[level], startSeconds, endSeconds });
          if (level === "twice" || level === "triple") {
            const mended = correctedGrid(music, [
              { kind: "stretchLevel", level, startSeconds, endSeconds },
              mending as GridEdit,
            ]);
            expect(times(mended)).toEqual(times(truth));
          }
        },
      ),
      { numRuns: propertyRuns },
    );
  });

  it("puts the missing beats into a stretch without any", () => {
    const free: GridEdit = { kind: "freeTime", startSeconds: 10.2, endSeconds: 14.2 };
    const heard = correctedGrid(music, [free]);
    const mending = likelyMending(heard, doubt("free", 10, 14.2));
    expect(mending).toEqual({ kind: "fixedTempo", startSeconds: 10, endSeconds: 14.2, bpm: 120 });
    expect(times(correctedGrid(music, [free, mending as GridEdit]))).toEqual(times(truth));
  });

  it("evens out beats that shake, and brings back the bar's usual count", () => {
    const shaken = musicAnalysis({
      beats: steadyBeats(60).map((beat, i) => ({ ...beat, seconds: beat.seconds + (i === 21 ? 0.07 : 0) })),
    });
    expect(likelyMending(correctedGrid(shaken, []), doubt("tempo", 10, 11.5))).toEqual({
      kind: "fixedTempo",
      startSeconds: 10,
      endSeconds: 11.5,
      bpm: null,
    });
    expect(likelyMending(truth, doubt("bar", 10, 10.5))).toEqual({ kind: "meter", beatsPerBar: 4, seconds: 10 });
  });

  it("says nothing where the neighbours do not tell", () => {
    expect(likelyMending(truth, doubt("tempo", 0, 30))).toBeNull();
    expect(likelyMending({ ...truth, beats: [] }, doubt("free", 0, 30))).toBeNull();
    const odd = correctedGrid(music, [{ kind: "fixedTempo", startSeconds: 10, endSeconds: 14, bpm: 165 }]);
    expect(likelyMending(odd, doubt("tempo", 10.3, 13.6))).toBeNull();
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
  });
});

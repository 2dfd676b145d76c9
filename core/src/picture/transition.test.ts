import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, lastOf } from "../presence/index.ts";
import { VARIED_KINDS } from "../show/index.ts";
import { NAMED_FRAME_RATES } from "../time/index.ts";
import { drawnStyles, placeTransitions, transitionShare } from "./index.ts";

const anyRate = fc.constantFrom(...Object.values(NAMED_FRAME_RATES));
/** First frames of slots, and the end of the film, from random slot lengths. */
const anyStarts = fc
  .array(fc.integer({ min: 1, max: 400 }), { minLength: 2, maxLength: 40 })
  .map((lengths) => lengths.reduce((starts, length) => [...starts, lastOf(starts) + length], [0]));
const dissolve = (seconds: number) => ({ style: { kind: "dissolve" as const }, seconds });

describe("transitions", () => {
  it("straddle their landing with half of either picture in its frame, and never show three pictures", () => {
    fc.assert(
      fc.property(anyStarts, fc.double({ min: 0.04, max: 10, noNaN: true }), anyRate, (starts, seconds, rate) => {
        const placed = placeTransitions(
          starts,
          starts.slice(1).map(() => dissolve(seconds)),
          rate,
        );
        let free = 0;
        placed.forEach((transition, i) => {
          const landing = itemAt(starts, i + 1);
          expect(transition.startFrame).toBeGreaterThanOrEqual(free);
          expect(transition.endFrame).toBeLessThanOrEqual(itemAt(starts, i + 2));
          free = transition.endFrame;
          if (transition.kind === "cut") return;
          expect(transitionShare(transition, landing)).toBe(0.5);
          expect(transition.endFrame - transition.startFrame).toBeLessThanOrEqual((seconds * rate.num) / rate.den);
        });
      }),
      { numRuns: 500 },
    );
  });

  it("may fill a passage of nothing but 4-second dissolves without standing time", () => {
    const placed = placeTransitions([0, 100, 200, 300], [4, 4].map(dissolve), { num: 25, den: 1 });
    expect(placed.map(({ startFrame, endFrame }) => [startFrame, endFrame])).toEqual([
      [51, 150],
      [151, 250],
    ]);
  });

  it("varied draw from their set without repeating a neighbour, the same every day", () => {
    const set = fc.uniqueArray(fc.constantFrom(...VARIED_KINDS), { minLength: 1, maxLength: VARIED_KINDS.length });
    fc.assert(
      fc.property(set, fc.integer({ min: 0, max: 1e9 }), (kinds, seed) => {
        const length = { unit: "seconds" as const, count: 1 };
        const wishes = Array.from({ length: 50 }, (_, i) => ({
          wish: { kind: "vary" as const, length, kinds },
          name: `slide ${i}`,
        }));
        const drawn = drawnStyles(wishes, seed);
        expect(drawnStyles(wishes, seed)).toEqual(drawn);
        for (const [i, { kind }] of drawn.entries()) {
          expect(kinds).toContain(kind);
          if (kinds.length > 1) expect(kind).not.toBe(drawn[i - 1]?.kind);
        }
        // A slide that comes in does not change what those far behind it have drawn.
        if (kinds.length > 2) {
          const more = drawnStyles([{ ...itemAt(wishes, 0), name: "new one" }, ...wishes], seed).slice(1);
          expect(more.filter((style, i) => style.kind === itemAt(drawn, i).kind).length).toBeGreaterThan(25);
        }
      }),
      { numRuns: 200 },
    );
  });
});

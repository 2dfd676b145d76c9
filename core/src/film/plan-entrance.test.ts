import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { WordTime } from "../picture/index.ts";
import { present } from "../presence/index.ts";
import { ENTRANCES, FIRST_STYLE, type Letters } from "../show/index.ts";
import { steadyBeats } from "../testing/index.ts";
import { designWords, leastSize } from "../words/index.ts";
import { withEntrance } from "./plan-entrance.ts";

const RATE = { num: 25, den: 1 };
const beats = steadyBeats(400);
const words = (text: string, more: Partial<Letters>) =>
  designWords({ kind: "title", text, place: "middle", size: 1 }, { ...FIRST_STYLE.letters, ...more });
const time = (startFrame: number, frames: number): WordTime => ({
  ...{ startFrame, endFrame: startFrame + frames, fadeInFrames: 6, fadeOutFrames: 6 },
  ...{ isScrolling: false, entrance: null },
});

describe("when words appear", () => {
  it("their first line comes with them, each other one on a beat at least 0.3 s later, all within 40 % of their time", () => {
    const lines = fc.array(fc.constantFrom("Firefly", "first across", ""), { minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(
        fc.constantFrom("lines", "letters", "rise", "rule"),
        lines,
        fc.nat(500),
        fc.integer({ min: 20, max: 900 }),
        fc.double({ min: 0, max: 8, noNaN: true }),
        (entrance, texts, start, frames, neededSeconds) => {
          const before = time(start, frames);
          const planned = withEntrance(words(texts.join("\n"), { entrance }), before, neededSeconds, beats, RATE);
          if (planned.entrance === null) {
            expect(planned).toEqual(before);
            return;
          }
          const { lineFrames, unitFrames, ornamentFrame } = planned.entrance;
          expect(lineFrames).toHaveLength(texts.length);
          expect(ornamentFrame).toBe(start);
          if (entrance !== "rule") expect(lineFrames[0]).toBe(start);
          const come = [...new Set([start, ...lineFrames])];
          for (const [i, frame] of come.entries()) {
            if (i === 0) continue;
            expect(frame - present(come[i - 1])).toBeGreaterThanOrEqual(Math.floor(0.3 * 25));
            // Two beats a second: every half second is one, to the nearest frame.
            expect(Math.abs((frame / 25) * 2 - Math.round((frame / 25) * 2))).toBeLessThan(0.09);
          }
          const last = Math.max(...lineFrames) + unitFrames - start;
          expect(last).toBeLessThanOrEqual(0.4 * frames);
          expect(frames - 6 - last / 2).toBeGreaterThanOrEqual(neededSeconds * 25);
        },
      ),
      { numRuns: 1000 },
    );
  });

  it("they do where there is time, and fade where there is not", () => {
    for (const entrance of ENTRANCES) {
      const long = withEntrance(words("Firefly\nfirst across", { entrance }), time(25, 250), 2, beats, RATE);
      expect(long.entrance?.kind ?? "fade").toBe(entrance);
      if (entrance === "fade" || entrance === "track") continue;
      expect(withEntrance(words("Firefly\nfirst", { entrance }), time(25, 40), 1, beats, RATE).entrance).toBeNull();
    }
  });

  it("letters that are joined do not open slowly: they would be torn apart", () => {
    const script = words("Firefly", { titleSet: "lantern", entrance: "track" });
    expect(withEntrance(script, time(0, 250), 1, beats, RATE).entrance).toBeNull();
  });
});

it("fonts have the least sizes that docs/picture.md states", () => {
  expect([leastSize("Great Vibes"), leastSize("Oswald")]).toEqual([0.055, 0.022]);
});

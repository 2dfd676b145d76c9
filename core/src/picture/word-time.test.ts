import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present } from "../presence/index.ts";
import { scrolledShare, type WordTime, wordAlpha, wordsChange } from "./word-time.ts";

const times: fc.Arbitrary<WordTime> = fc
  .record({
    startFrame: fc.nat(50),
    length: fc.integer({ min: 20, max: 90 }),
    fadeInFrames: fc.nat(9),
    fadeOutFrames: fc.nat(9),
    isScrolling: fc.boolean(),
    entrance: fc.constant(null),
  })
  .map(({ length, ...time }) => ({ ...time, endFrame: time.startFrame + length }));

describe("words in time", () => {
  it("come and go in even steps, and are seen whole between", () => {
    const time = {
      startFrame: 10,
      endFrame: 30,
      fadeInFrames: 3,
      fadeOutFrames: 1,
      isScrolling: false,
      entrance: null,
    };
    const seen = Array.from({ length: 24 }, (_, i) => wordAlpha(time, 8 + i));
    expect(seen).toEqual([0, 0, 0.25, 0.5, 0.75, ...Array<number>(16).fill(1), 0.5, 0, 0]);
  });

  it("are said to change exactly where they look different from the frame before", () => {
    fc.assert(
      fc.property(times, (time) => {
        const look = (frame: number) => [
          wordAlpha(time, frame),
          wordAlpha(time, frame) > 0 ? scrolledShare(time, frame) : null,
        ];
        for (let frame = 0; frame < 160; frame++) {
          const isDifferent = JSON.stringify(look(frame)) !== JSON.stringify(look(frame - 1));
          if (isDifferent) expect(wordsChange(time, frame), `frame ${frame}`).toBe(true);
        }
      }),
    );
  });

  it("scroll from wholly below to wholly above, evenly", () => {
    fc.assert(
      fc.property(times, (time) => {
        const rolling = { ...time, isScrolling: true };
        const shares = Array.from({ length: time.endFrame - time.startFrame }, (_, i) =>
          present(scrolledShare(rolling, time.startFrame + i)),
        );
        expect(shares[0]).toBeGreaterThan(0);
        expect(shares.at(-1)).toBeLessThan(1);
        for (const [i, share] of shares.slice(1).entries())
          expect(share - itemAt(shares, i)).toBeCloseTo(itemAt(shares, 0), 9);
      }),
    );
  });
});

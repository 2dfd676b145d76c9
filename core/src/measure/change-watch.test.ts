import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, lastOf, present } from "../presence/index.ts";
import { ChangeWatch, type SeenChange, sharesOf, shiftOfShares } from "./index.ts";

/** Slots of random lengths with transitions of random lengths that at most touch, in frames. */
const anySlots = fc
  .array(fc.tuple(fc.integer({ min: 6, max: 90 }), fc.integer({ min: 0, max: 40 })), { minLength: 2, maxLength: 30 })
  .map((lengths) => {
    let start = 0;
    return lengths.map(([length, wish], i) => {
      const before = lengths[i - 1]?.[0] ?? 0;
      const half = i === 0 ? 0 : Math.max(0, Math.min(wish, Math.floor((Math.min(before, length) - 1) / 2)));
      const slot = {
        startFrame: start,
        endFrame: start + length,
        transitionIn: { startFrame: start - half, endFrame: start + half },
      };
      start += length;
      return slot;
    });
  });

describe("the watch over changes", () => {
  it("hands over the frames around every change, in order and complete, and keeps only few", () => {
    fc.assert(
      fc.property(anySlots, (slots) => {
        const total = lastOf(slots).endFrame;
        const seen: SeenChange[] = [];
        const watch = new ChangeWatch(slots, (change) => seen.push(change));
        for (let frame = 0; frame < total; frame++) {
          if (watch.wants(frame)) watch.take(frame, Uint8Array.of(frame & 255, frame >> 8));
        }
        watch.end(total);
        expect(seen.map(({ index }) => index)).toEqual(slots.slice(1).map((_, i) => i + 1));
        for (const { index, fromFrame, smallFrames } of seen) {
          const { transitionIn } = itemAt(slots, index);
          const frames = smallFrames.map(([low, high]) => present(low) + 256 * present(high));
          expect(frames).toEqual(frames.map((_, i) => fromFrame + i));
          expect(fromFrame).toBeLessThan(Math.max(1, transitionIn.startFrame));
          expect(frames.at(-1)).toBeGreaterThanOrEqual(Math.min(total - 1, transitionIn.endFrame));
        }
      }),
      { numRuns: 300 },
    );
  });

  it("hands over what there is of a film that ends early", () => {
    const slots = [0, 50, 100].map((startFrame) => ({
      startFrame,
      endFrame: startFrame + 50,
      transitionIn: { startFrame, endFrame: startFrame },
    }));
    const seen: SeenChange[] = [];
    const watch = new ChangeWatch(slots, (change) => seen.push(change));
    for (let frame = 0; frame < 60; frame++) if (watch.wants(frame)) watch.take(frame, Uint8Array.of(frame));
    watch.end(60);
    // From twelve frames before the last of the old picture, 37, to the last that there is, 59.
    expect(seen.map(({ smallFrames }) => smallFrames.length)).toEqual([23, 0]);
  });
});

describe("the shift of shares", () => {
  it("is found to the frame, for any rising curve and a little noise", () => {
    const curve = fc.array(fc.integer({ min: 0, max: 30 }), { minLength: 6, maxLength: 40 });
    fc.assert(
      fc.property(curve, fc.integer({ min: -8, max: 8 }), fc.integer({ min: 0, max: 99 }), (steps, shift, phase) => {
        const total = steps.reduce((sum, step) => sum + step, 0);
        fc.pre(total > 0 && Math.max(...steps) > 3);
        let sum = 0;
        const core = steps.map((step) => (sum += step) / total);
        const expected = [...Array<number>(13).fill(0), ...core, ...Array<number>(13).fill(1)];
        const seen = expected.map((_, i) => {
          const at = Math.max(0, Math.min(expected.length - 1, i - shift));
          return itemAt(expected, at) + 0.004 * Math.sin(phase + 3 * i);
        });
        expect(shiftOfShares(seen, expected)).toBe(shift);
      }),
      { numRuns: 300 },
    );
    expect(shiftOfShares([0, 0.5, 1], [0, 0.5, 1])).toBe(0);
  });

  it("is found where encoding has moved all shares, as in a small film of two pictures that look much the same", () => {
    // In hundredths; decoded from a film of 640 x 360 at quality "small", and as they were drawn.
    const seen = [
      0, 0, 1, 2, 2, 3, 3, 3, 3, 3, 3, 5, 6, 9, 12, 18, 23, 29, 35, 41, 45, 52, 57, 64, 69, 75, 82, 86, 90, 91, 93, 93,
      93, 94, 94, 95, 98, 99, 99, 100, 100,
    ];
    const drawn = [
      0, 0, 1, 1, 2, 2, 3, 3, 3, 3, 3, 3, 3, 9, 15, 21, 26, 32, 38, 44, 49, 55, 61, 67, 72, 78, 84, 90, 96, 96, 96, 96,
      96, 97, 97, 97, 98, 98, 99, 100, 100,
    ];
    expect(shiftOfShares(seen, drawn)).toBe(0);
    expect(shiftOfShares([0, ...seen.slice(0, -1)], drawn)).toBe(1);
    expect(shiftOfShares([...seen.slice(1), 100], drawn)).toBe(-1);
  });

  it("comes from shares between the first look and the last", () => {
    const look = (value: number): Uint8Array => Uint8Array.of(value, 255 - value);
    expect(sharesOf({ smallFrames: [look(0), look(51), look(255)] })).toEqual([0, 0.2, 1]);
  });
});

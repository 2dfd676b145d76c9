import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present } from "../presence/index.ts";
import { AreaSums, firstIndex, hannSinc, kaiserSinc, luma } from "./index.ts";

describe("the first index for which something holds", () => {
  it("is the one that a look at each finds", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 20 })), fc.integer({ min: -1, max: 21 }), (values, wanted) => {
        const sorted = values.toSorted((a, b) => a - b);
        const found = sorted.findIndex((value) => value >= wanted);
        expect(firstIndex(sorted.length, (i) => itemAt(sorted, i) >= wanted)).toBe(found < 0 ? sorted.length : found);
      }),
    );
  });
});

describe("luma", () => {
  it("is white for white, and the standard's share for each primary", () => {
    expect(luma(255, 255, 255)).toBeCloseTo(255, 9);
    expect([luma(1, 0, 0), luma(0, 1, 0), luma(0, 0, 1)]).toEqual([0.2126, 0.7152, 0.0722]);
  });
});

describe("sums over rectangles", () => {
  it("are what adding pixel by pixel gives", () => {
    const size = { min: 1, max: 9 };
    fc.assert(
      fc.property(
        fc.integer(size),
        fc.integer(size),
        fc.array(fc.integer({ min: -50, max: 50 }), { minLength: 81, maxLength: 81 }),
        fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 4, maxLength: 4 }),
        (width, height, plane, shares) => {
          const at = (share: number, end: number): number => Math.round(share * end);
          const [left, right] = [at(itemAt(shares, 0), width), at(itemAt(shares, 1), width)].toSorted((a, b) => a - b);
          const [top, bottom] = [at(itemAt(shares, 2), height), at(itemAt(shares, 3), height)].toSorted(
            (a, b) => a - b,
          );
          let sum = 0;
          for (let y = present(top); y < present(bottom); y++) {
            for (let x = present(left); x < present(right); x++) sum += itemAt(plane, y * width + x);
          }
          const sums = new AreaSums(width, height, (index) => itemAt(plane, index));
          expect(sums.sum(present(left), present(top), present(right), present(bottom))).toBe(sum);
        },
      ),
    );
  });
});

describe("a windowed sinc", () => {
  it("passes what lies under its cutoff, and holds back what lies over it", () => {
    const response = (frequency: number): number => {
      let sum = 0;
      for (let t = -40; t <= 40; t++) sum += hannSinc(t, 0.1, 40) * Math.cos(2 * Math.PI * frequency * t);
      return sum;
    };
    for (const frequency of [0, 0.03, 0.07]) expect(response(frequency)).toBeCloseTo(1, 2);
    for (const frequency of [0.14, 0.3, 0.5]) expect(Math.abs(response(frequency))).toBeLessThan(0.005);
  });

  it("falls under Kaiser's window from 1 to 1 / I0(beta) at its edge", () => {
    // I0(8) = 427.564, from memory.
    const x = 2.5;
    const sinc = Math.sin(Math.PI * x) / (Math.PI * x);
    expect(kaiserSinc(0, 24, 8)).toBe(1);
    expect(kaiserSinc(x, x + 1e-12, 8) / sinc).toBeCloseTo(1 / 427.564, 6);
    expect(kaiserSinc(x, x, 8)).toBe(0);
  });
});

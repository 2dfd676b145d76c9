import { itemAt } from "@humming-tide/core/presence";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { levelAt, wholeCurve, withMoved, withPoint } from "./level-points.ts";

const anyPoint = fc.record({
  seconds: fc.double({ min: 0, max: 60, noNaN: true }),
  decibels: fc.double({ min: -60, max: 20, noNaN: true }),
});

describe("points of a level curve", () => {
  it("keep their order and their distance, however they are set and moved", () => {
    fc.assert(
      fc.property(fc.array(anyPoint, { minLength: 1, maxLength: 12 }), fc.nat(11), anyPoint, (points, which, to) => {
        const level = points.reduce<ReturnType<typeof withPoint>>(withPoint, []);
        const moved = withMoved(level, which % level.length, to, 60);
        for (const curve of [level, moved])
          for (const [i, { seconds }] of curve.slice(1).entries())
            expect(seconds - itemAt(curve, i).seconds).toBeGreaterThanOrEqual(0.05 - 1e-9);
        const { decibels } = itemAt(moved, which % level.length);
        expect(Math.abs(decibels + 15)).toBeLessThanOrEqual(21);
      }),
    );
  });

  it("are joined from the song's start to its end, at 0 dB where there are none", () => {
    expect(wholeCurve([], 60)).toEqual([
      { seconds: 0, decibels: 0 },
      { seconds: 60, decibels: 0 },
    ]);
    const level = [
      { seconds: 10, decibels: -6 },
      { seconds: 20, decibels: 0 },
    ];
    expect(wholeCurve(level, 60).map(({ decibels }) => decibels)).toEqual([-6, -6, 0, 0]);
    expect([0, 10, 15, 20, 50].map((seconds) => levelAt(level, seconds))).toEqual([-6, -6, -3, 0, 0]);
  });
});

import { describe, expect, it } from "vitest";
import { CHANGE_COST, changeCost, naturalLengths, ODD_BARS_COST, OFF_METRE_COST, unevenCost } from "./metre.ts";

describe("natural lengths", () => {
  it.each([
    [2, [1, 2, 4, 8, 16, 32, 64]],
    [3, [1, 3, 6, 12, 24, 48]],
    [4, [1, 2, 4, 8, 16, 32, 64]],
    [5, [1, 2, 3, 5, 10, 20, 40]],
    [6, [1, 3, 6, 12, 24, 48]],
    [7, [1, 3, 4, 7, 14, 28, 56]],
    [12, [1, 3, 6, 12, 24, 48]],
  ])("of bars of %d beats", (beatsPerBar, lengths) => {
    expect(naturalLengths(beatsPerBar)).toEqual(lengths);
  });
});

describe("what the metre costs", () => {
  it("is as docs/fit.md has it", () => {
    expect([OFF_METRE_COST, ODD_BARS_COST, CHANGE_COST]).toEqual([4, 2, { elsewhere: 2, phrase: 0.3, section: 0 }]);
    expect([unevenCost(12, 4), unevenCost(6, 4), unevenCost(9, 3), unevenCost(2, 3)]).toEqual([2, 4, 2, 4]);
    expect((["section", "marker", "phrase", "bar", "beat"] as const).map((kind) => changeCost({ kind }))).toEqual([
      0, 0, 0.3, 2, 2,
    ]);
  });

  it("is more than any two natural lengths, one twice the other, could cost in the middle between them", () => {
    const worst = 4 * Math.log(Math.SQRT2) ** 2;
    expect(OFF_METRE_COST).toBeGreaterThan(2 * worst);
    expect(ODD_BARS_COST).toBeGreaterThan(2 * worst);
  });
});

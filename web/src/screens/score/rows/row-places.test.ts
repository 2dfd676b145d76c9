import { itemAt, lastOf } from "@humming-tide/core/presence";
import { describe, expect, it } from "vitest";
import { rowHeight, rowSize } from "../layout/row-size.ts";
import { rowAt, rowPlaces } from "./row-places.ts";

describe("rows of different heights", () => {
  const size = rowSize("medium", true, { voices: true, clips: true });
  const places = rowPlaces(size, [0, 3, 0, 7]);

  it("lie one under the other without gaps, each as high as its lanes ask for", () => {
    for (const [row, own] of places.sizes.entries())
      expect(itemAt(places.tops, row + 1) - itemAt(places.tops, row)).toBe(rowHeight(own));
    expect(places.sizes[3]).toEqual(size);
    expect(places.sizes[0]).toBe(places.sizes[2]);
    expect(rowHeight(itemAt(places.sizes, 1)) - rowHeight(itemAt(places.sizes, 0))).toBe(size.level + size.voices);
  });

  it("are found by their height, the upper edge included", () => {
    for (const [row, top] of places.tops.slice(0, -1).entries()) {
      expect(rowAt(places, top)).toBe(row);
      expect(rowAt(places, itemAt(places.tops, row + 1) - 0.5)).toBe(row);
    }
    expect(rowAt(places, -1)).toBe(-1);
    expect(rowAt(places, lastOf(places.tops))).toBe(-1);
  });
});

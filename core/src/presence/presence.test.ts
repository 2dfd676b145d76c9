import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, lastOf, present, valueFor } from "./presence.ts";

describe("what must be there", () => {
  it("is what plain access gives where it is there, and an error everywhere else", () => {
    fc.assert(
      fc.property(fc.array(fc.string()), fc.double(), fc.integer({ min: -3, max: 12 }), (items, odd, index) => {
        const plain = items[index];
        if (plain === undefined) expect(() => itemAt(items, index)).toThrow(RangeError);
        else expect(itemAt(items, index)).toBe(plain);
        if (items.length === 0) expect(() => lastOf(items)).toThrow(RangeError);
        else expect(lastOf(items)).toBe(items.at(-1));
        if (items[odd] === undefined) expect(() => itemAt(items, odd)).toThrow(RangeError);
      }),
    );
  });

  it("may be empty, zero or false", () => {
    expect([present(0), present(""), present(false)]).toEqual([0, "", false]);
    expect(valueFor(new Map([["a", 0]]), "a")).toBe(0);
    expect(itemAt(Float64Array.of(Number.NaN), 0)).toBeNaN();
  });

  it("says what was asked for", () => {
    expect(() => itemAt([1, 2], 2)).toThrow("Item 2 of 2 was asked for.");
    expect(() => itemAt([1, 2], Number.NaN)).toThrow("Item NaN of 2");
    expect(() => present(null)).toThrow("there was null");
    expect(() => valueFor(new Map([["a", 1]]), "b")).toThrow("A map of 1");
  });
});

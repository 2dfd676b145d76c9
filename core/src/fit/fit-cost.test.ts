import { describe, expect, it } from "vitest";
import { fitSlidesList as slides } from "../testing/index.ts";
import { costOfFit } from "./index.ts";

const nothing = {
  slots: [],
  endSeconds: 60,
  cost: 0,
  maximumFactor: 1,
  beyondMaterial: false,
  askedSeconds: null,
  leftOut: [],
  quietRoom: false,
  repeats: 0,
  conflict: [],
  unmetLocks: [],
  steady: true,
};

describe("what a film costs beside its laying", () => {
  it("is as docs/fit.md has it", () => {
    const list = slides(5, {
      1: { rating: "maybe" },
      2: { hasBetterLike: true },
      3: { hero: true, hasBetterLike: true },
      4: { hasBetterLike: true, rating: "maybe" },
    });
    const cost = (more: Partial<typeof nothing>) => costOfFit({ slides: list }, { ...nothing, ...more });
    const leftOut = list.map((_, index) => cost({ leftOut: [index] as never[] }));
    expect(leftOut).toEqual([3, 1, 0.5, 9, 0.5]);
    expect(cost({ repeats: 4 })).toBe(4);
    expect(cost({ repeats: 4, leftOut: [1] as never[] })).toBe(4 * 6 + 1);
    expect(cost({ beyondMaterial: true })).toBe(10);
    expect(cost({ unmetLocks: [{ kind: "length", id: "s0" }] as never[] })).toBe(20);
    expect(cost({ maximumFactor: 4 })).toBe(40);
    expect(cost({ cost: 7.5, repeats: 1 })).toBe(8.5);
  });
});

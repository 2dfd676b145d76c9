import type { FilmSlot } from "@humming-tide/core/film";
import { describe, expect, it } from "vitest";
import { rhythmSteps, shortestAndLongest } from "./rhythm-steps.ts";

describe("the rhythm of a film", () => {
  const slot = (startFrame: number, endFrame: number): FilmSlot => ({ startFrame, endFrame }) as FilmSlot;
  const plan = { slots: [slot(0, 50), slot(50, 75), slot(75, 175)], rate: { num: 25, den: 1 } };

  it("is a step a slot, as long as the slot and as high as its length", () => {
    expect(rhythmSteps(plan)).toEqual([
      { x: 0, y: 2 },
      { x: 2, y: 2 },
      { x: 2, y: 1 },
      { x: 3, y: 1 },
      { x: 3, y: 4 },
      { x: 7, y: 4 },
    ]);
    expect(shortestAndLongest(plan)).toEqual({ shortest: 1, longest: 4 });
  });
});

import fc from "fast-check";
import { expect, it } from "vitest";
import { lastOf } from "../presence/index.ts";
import { clipFrameAt } from "./index.ts";

it("a clip shows the last frame that has begun, whatever the distances of its frames", () => {
  const steps = fc.array(fc.double({ min: 0.002, max: 0.3, noNaN: true }), { minLength: 1, maxLength: 60 });
  fc.assert(
    fc.property(steps, fc.double({ min: -1, max: 20, noNaN: true }), (distances, seconds) => {
      const starts = distances.reduce((list, step) => [...list, lastOf(list) + step], [0]);
      let expected = 0;
      for (const [i, start] of starts.entries()) if (start <= seconds + 5e-4) expected = i;
      expect(clipFrameAt(starts, seconds)).toBe(expected);
    }),
  );
  expect(clipFrameAt([0, 0.04, 0.08], 0.0799999)).toBe(2);
});

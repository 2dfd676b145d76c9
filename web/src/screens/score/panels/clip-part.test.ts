import type { ProposedPart } from "@humming-tide/core/clip-analysis";
import fc from "fast-check";
import { expect, it } from "vitest";
import { withMoment, withoutEnd, withoutStart } from "./clip-part.ts";

const second = fc.double({ min: 0.1, max: 20, noNaN: true });
/** A part that a show may hold: its out lies behind its in. */
const part = fc
  .record({ inSeconds: second, outSeconds: fc.option(second), momentSeconds: fc.option(second) })
  .filter(({ inSeconds, outSeconds }) => outSeconds === null || outSeconds > inSeconds);

it("whatever is taken of a clip, something is left to show, and a moment lies in it", () => {
  const change = fc.constantFrom(withMoment, withoutStart, withoutEnd);
  fc.assert(
    fc.property(part, change, second, (before, take, at) => {
      const after: ProposedPart = take(before, at);
      const out = after.outSeconds ?? Number.POSITIVE_INFINITY;
      expect(out).toBeGreaterThan(after.inSeconds);
      // One that lay outside already was never shown.
      const had = before.momentSeconds;
      const wasInside = had === null || (had >= before.inSeconds && had <= (before.outSeconds ?? 20));
      if (wasInside && after.momentSeconds !== null)
        expect(after.momentSeconds >= after.inSeconds && after.momentSeconds <= out).toBe(true);
      if (take === withMoment) expect(after.momentSeconds).toBe(at);
      if (take === withoutStart) expect(after.inSeconds).toBe(at);
      if (take === withoutEnd) expect(after.outSeconds).toBe(at);
    }),
  );
});

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { LandingCandidate } from "./landing-candidates.ts";
import { layRun, TOLERANCE_SECONDS } from "./lay-run.ts";

const candidate = (seconds: number, strength: number, beatIndex = 0): LandingCandidate => ({
  seconds,
  strength,
  kind: strength === 1 ? "bar" : "beat",
  beatIndex,
});

/** The cost as the docstring writes it. */
function cost(chosen: readonly LandingCandidate[], from: number, to: number): number {
  const wished = (to - from) / (chosen.length + 1);
  const times = [from, ...chosen.map((landing) => landing.seconds), to];
  let sum = 0;
  for (let i = 1; i < times.length; i++) sum += 4 * Math.log((times[i]! - times[i - 1]!) / wished) ** 2;
  return sum + chosen.reduce((total, landing) => total + 1 - landing.strength, 0);
}

/** Every choice of landings, one after another. */
function cheapestByTryingAll(
  candidates: readonly LandingCandidate[],
  from: number,
  to: number,
  count: number,
  shortest: number,
): number | null {
  let best: number | null = null;
  const tryFrom = (start: number, chosen: LandingCandidate[]): void => {
    if (chosen.length === count - 1) {
      const times = [from, ...chosen.map((landing) => landing.seconds), to];
      if (times.some((time, i) => i > 0 && time - times[i - 1]! < shortest - TOLERANCE_SECONDS)) return;
      const total = cost(chosen, from, to);
      if (best === null || total < best) best = total;
      return;
    }
    for (let i = start; i < candidates.length; i++) tryFrom(i + 1, [...chosen, candidates[i]!]);
  };
  tryFrom(0, []);
  return best;
}

describe("laying slots between two instants", () => {
  it("costs what the cheapest of all choices costs", () => {
    const beats = fc.array(fc.record({ gap: fc.integer({ min: 1, max: 9 }), bar: fc.boolean() }), {
      minLength: 0,
      maxLength: 11,
    });
    fc.assert(
      fc.property(beats, fc.integer({ min: 1, max: 6 }), fc.integer({ min: 0, max: 8 }), (gaps, count, shortest) => {
        let at = 0;
        const candidates = gaps.map(({ gap, bar }) => {
          at += gap / 4;
          return candidate(at, bar ? 1 : 0.4);
        });
        const to = at + 1;
        const laid = layRun(candidates, 0, to, count, shortest / 8);
        const best = cheapestByTryingAll(candidates, 0, to, count, shortest / 8);
        expect(laid === null).toBe(best === null);
        if (laid && best !== null) expect(cost(laid, 0, to)).toBeCloseTo(best, 9);
      }),
      { numRuns: 500 },
    );
  });

  it("takes the earlier of two landings that cost the same", () => {
    const laid = layRun([candidate(4, 1, 1), candidate(6, 1, 2)], 0, 10, 2, 0);
    expect(laid?.map((landing) => landing.seconds)).toEqual([4]);
  });

  it("prefers a bar start to a nearer beat", () => {
    const laid = layRun([candidate(5, 0.4), candidate(5.6, 1)], 0, 10, 2, 0);
    expect(laid?.[0]?.seconds).toBe(5.6);
  });
});

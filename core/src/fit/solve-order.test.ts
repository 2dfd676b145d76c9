import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present } from "../presence/index.ts";
import { propertyRuns } from "../testing/index.ts";
import type { Landing } from "./landings.ts";
import type { OrderProblem, SlotWish } from "./order-problem.ts";
import { isPossible } from "./reach.ts";
import { solveOrder } from "./solve-order.ts";
import { cheapestWay, costOfWay } from "./testing/every-way.ts";

const landing = (
  seconds: number,
  strength: number,
  kind: Landing["kind"] = "beat",
  accent = 0,
  beatIndex: number | null = null,
): Landing => ({
  seconds,
  kind,
  strength,
  // Two thirds of it comes from the metre.
  metreStrength: (2 * strength) / 3,
  beatIndex,
  name: "",
  accent,
  markerOrigin: null,
});

const slot = (more: Partial<SlotWish> & { wished?: number }, landingCount: number): SlotWish => {
  const { wished = 2, ...rest } = more;
  return {
    logWish: new Float64Array(landingCount + 1).fill(Math.log(wished)),
    minimumSeconds: 0.5,
    maximumSeconds: 6,
    materialSeconds: Infinity,
    lengthLockSeconds: null,
    landingLock: null,
    allowed: null,
    landingWeight: 1,
    startsPassage: false,
    rhythm: "free",
    metreOnly: false,
    moment: null,
    plannedLanding: null,
    ...rest,
  };
};

const NO_METRE = { beatsPerBar: 4, firstBeat: null };

const KINDS = ["beat", "bar", "phrase", "section", "marker", "accent"] as const;
const anyProblem = fc
  .record({
    gaps: fc.array(fc.double({ min: 0.3, max: 1.4, noNaN: true }), { minLength: 3, maxLength: 10 }),
    strengths: fc.array(fc.constantFrom(0.4, 0.75, 0.9, 1), { minLength: 10, maxLength: 10 }),
    kinds: fc.array(fc.constantFrom(...KINDS), { minLength: 10, maxLength: 10 }),
    accents: fc.array(fc.constantFrom(0, 0.3, 0.8), { minLength: 10, maxLength: 10 }),
    /** By how many beats each is behind the one before; 0 is off the beat. */
    beatSteps: fc.array(fc.constantFrom(0, 1, 1, 1, 2), { minLength: 10, maxLength: 10 }),
    beatsPerBar: fc.constantFrom(2, 3, 4, 5),
    firstBeat: fc.constantFrom(null, 0),
    slots: fc.array(
      fc.record({
        wished: fc.double({ min: 0.4, max: 5, noNaN: true }),
        slope: fc.double({ min: -0.1, max: 0.1, noNaN: true }),
        minimumSeconds: fc.constantFrom(0.2, 0.5, 1),
        maximumSeconds: fc.constantFrom(1.5, 3, 6),
        landingWeight: fc.constantFrom(1, 2),
        materialSeconds: fc.oneof({ weight: 20, arbitrary: fc.constant(Infinity) }, fc.constantFrom(1, 2.5)),
        startsPassage: fc.boolean(),
        metreOnly: fc.boolean(),
        rhythm: fc.constantFrom("kept" as const, "kept" as const, "passed" as const, "free" as const),
        lock: fc.option(fc.nat({ max: 9 }), { freq: 5 }),
        planned: fc.option(fc.nat({ max: 9 }), { freq: 2 }),
        mask: fc.option(fc.nat({ max: 1023 }), { freq: 5 }),
        moment: fc.option(
          fc.record({ beforeSeconds: fc.constantFrom(0.5, 2), afterSeconds: fc.constantFrom(0.5, 2) }),
          { freq: 5 },
        ),
      }),
      { minLength: 1, maxLength: 5 },
    ),
    tail: fc.double({ min: 0.3, max: 2, noNaN: true }),
    early: fc.option(fc.double({ min: 0, max: 1, noNaN: true })),
  })
  .map(({ gaps, strengths, kinds, accents, beatSteps, slots, tail, early, ...metre }): OrderProblem => {
    let at = 0;
    let beat = 0;
    const landings = gaps.map((gap, i) => {
      const beatIndex = beatSteps[i] === 0 ? null : (beat += itemAt(beatSteps, i));
      return landing((at += gap), itemAt(strengths, i), kinds[i], accents[i], beatIndex);
    });
    const last = { seconds: at + tail, cost: 0 };
    return {
      ...metre,
      landings,
      ends: early === null ? [last] : [{ seconds: at + 0.1, cost: early }, last],
      slots: slots.map(({ wished, slope, lock, mask, planned, ...rest }, k) => ({
        ...slot({}, landings.length),
        ...rest,
        logWish: Float64Array.from({ length: landings.length + 1 }, (_, i) => Math.log(wished) + slope * i),
        plannedLanding: planned === null ? null : planned % landings.length,
        landingLock: lock === null || k === 0 ? null : lock % landings.length,
        allowed: mask === null ? null : Uint8Array.from(landings, (_, i) => (mask >> i) & 1),
      })),
    };
  });

describe("the cheapest way to lay slots in a fixed order", () => {
  it("costs what the cheapest of all ways costs", () => {
    let possible = 0;
    fc.assert(
      fc.property(anyProblem, (problem) => {
        const solution = solveOrder(problem);
        const best = cheapestWay(problem)?.cost ?? Infinity;
        expect(isPossible(problem)).toBe(best < Infinity);
        if (best === Infinity) {
          expect(solution).toBeNull();
          return;
        }
        possible++;
        expect(present(solution).cost).toBeCloseTo(best, 9);
        const end = present(problem.ends.find(({ seconds }) => seconds === present(solution).endSeconds));
        expect(costOfWay(problem, present(solution).landings, end, present(solution).maximumFactor)).toBeCloseTo(
          best,
          9,
        );
      }),
      { numRuns: propertyRuns },
    );
    // The property means something only if many problems have an answer.
    expect(possible).toBeGreaterThan(200);
  });

  it("never costs more with more freedom: one place more, one lock or limit less", () => {
    const level = (problem: OrderProblem): [number, number] => {
      const solution = solveOrder(problem);
      return solution ? [solution.maximumFactor, solution.cost] : [Infinity, Infinity];
    };
    fc.assert(
      fc.property(anyProblem, fc.nat({ max: 4 }), (problem, which) => {
        const freed = problem.slots.map((wish, k) =>
          k === which ? { ...wish, landingLock: null, allowed: null } : wish,
        );
        const [factor, cost] = level(problem);
        const [freeFactor, freeCost] = level({ ...problem, slots: freed });
        expect(freeFactor).toBeLessThanOrEqual(factor);
        if (freeFactor === factor) expect(freeCost).toBeLessThanOrEqual(cost + 1e-9);
      }),
      { numRuns: 300 },
    );
  });

  it("takes the earlier landing of equal ways, and the same every time", () => {
    const landings = [1, 2, 3, 4, 5].map((seconds) => landing(seconds, 1));
    const problem = {
      landings,
      slots: [1, 2].map(() => slot({ wished: 3 }, 5)),
      ends: [{ seconds: 6, cost: 0 }],
      ...NO_METRE,
    };
    expect(present(solveOrder(problem)).landings.map(({ seconds }) => seconds)).toEqual([3]);
    const even = { ...problem, landings: [2, 4].map((seconds) => landing(seconds, 1)) };
    expect(present(solveOrder(even)).landings.map(({ seconds }) => seconds)).toEqual([2]);
  });

  it("keeps locked lengths to the instant, off the beat where they fall, also in a row, at the end and before a locked landing", () => {
    const landings = Array.from({ length: 19 }, (_, i) => landing(i + 1, 0.4));
    const ends = [{ seconds: 20, cost: 0 }];
    const solve = (locks: Record<number, Partial<SlotWish>>) =>
      solveOrder({
        landings,
        ends,
        ...NO_METRE,
        slots: Array.from({ length: 6 }, (_, k) => slot({ wished: 3, ...locks[k] }, 19)),
      })?.landings.map(({ seconds }) => seconds);
    const lengths = (starts: number[]) => [...starts, 20].map((seconds, i) => seconds - (starts[i - 1] ?? 0));
    expect(lengths(present(solve({ 0: { lengthLockSeconds: 2.6 } })))[0]).toBeCloseTo(2.6, 9);
    const row = lengths(present(solve({ 2: { lengthLockSeconds: 2.6 }, 3: { lengthLockSeconds: 3.3 } })));
    expect(row[2]).toBeCloseTo(2.6, 9);
    expect(row[3]).toBeCloseTo(3.3, 9);
    expect(lengths(present(solve({ 5: { lengthLockSeconds: 2.6 } })))[5]).toBeCloseTo(2.6, 9);
    const before = present(solve({ 2: { lengthLockSeconds: 2.6 }, 3: { landingLock: 9 } }));
    expect(before[2]).toBe(10);
    expect(before[1]).toBeCloseTo(7.4, 9);
    expect(solve({ 1: { landingLock: 12 }, 2: { landingLock: 12 } })).toBeUndefined();
  });
});

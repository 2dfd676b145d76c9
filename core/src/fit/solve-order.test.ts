import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, lastOf, present } from "../presence/index.ts";
import { propertyRuns } from "../testing/index.ts";
import type { Landing } from "./landings.ts";
import type { OrderProblem, SlotWish } from "./order-problem.ts";
import { isPossible } from "./reach.ts";
import { solveOrder } from "./solve-order.ts";

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

/** Natural lengths of short films, by beats in a bar, written down by hand. */
const NATURAL: Readonly<Record<number, readonly number[]>> = {
  2: [1, 2, 4, 8, 16, 32, 64],
  3: [1, 3, 6, 12, 24, 48],
  4: [1, 2, 4, 8, 16, 32, 64],
  5: [1, 2, 3, 5, 10, 20, 40],
};

/** What the metre costs, slot by slot; the last one ends with the film. */
function metreOf({ slots, beatsPerBar, firstBeat }: OrderProblem, chosen: readonly Landing[]): number {
  let cost = 0;
  let run: number | null = null;
  for (const [k, { rhythm }] of slots.slice(0, -1).entries()) {
    const from = chosen[k - 1] ?? null;
    const to = itemAt(chosen, k);
    const [first, last] = [from ? from.beatIndex : firstBeat, to.beatIndex];
    const beats = first === null || last === null ? null : last - first;
    if (rhythm === "free") {
      run = null;
    } else if (beats === null) {
      run = null;
      if (from?.kind === "accent" || to.kind === "accent") cost += 4;
    } else if (!present(NATURAL[beatsPerBar]).includes(beats)) {
      run = null;
      cost += beats % beatsPerBar === 0 ? 2 : 4;
    } else if (rhythm === "kept") {
      const begins = from?.kind;
      if (run !== null && run !== beats && from && begins !== "section" && begins !== "marker")
        cost += begins === "phrase" ? 0.3 : 2;
      run = beats;
    }
  }
  return cost;
}

/**
 * The cost as docs/fit.md has it, written down a second time: Infinity for what is not allowed.
 * `times` are the starts of all slots but the first, and the end.
 */
function costOf(
  problem: OrderProblem,
  chosen: readonly Landing[],
  end: { seconds: number; cost: number },
  factor: number,
): number {
  const { landings, slots } = problem;
  const starts = [0, ...chosen.map(({ seconds }) => seconds), end.seconds];
  let cost = end.cost + metreOf(problem, chosen);
  for (const [k, wish] of slots.entries()) {
    const [from, to] = [itemAt(starts, k), itemAt(starts, k + 1)];
    const seconds = to - from;
    const at = k === 0 ? null : itemAt(chosen, k - 1);
    const place = at === null ? -1 : landings.indexOf(at);
    if (wish.landingLock !== null && place !== wish.landingLock) return Infinity;
    if (at && wish.allowed && place >= 0 && wish.allowed[place] === 0 && wish.landingLock === null) return Infinity;
    if (wish.lengthLockSeconds !== null) {
      if (Math.abs(seconds - wish.lengthLockSeconds) > 0.0125) return Infinity;
    } else {
      if (
        seconds < wish.minimumSeconds - 0.012 ||
        seconds > Math.min(wish.maximumSeconds * factor, wish.materialSeconds) + 0.012
      )
        return Infinity;
      cost += 4 * Math.log(seconds / Math.exp(itemAt(wish.logWish, place + 1))) ** 2;
    }
    if (wish.moment) {
      const { beforeSeconds, afterSeconds } = wish.moment;
      const isHit = landings.some(
        ({ seconds: a, accent }) =>
          accent >= 0.5 && a >= from && a <= to && a - from <= beforeSeconds && to - a <= afterSeconds,
      );
      if (!isHit) cost += 8;
    }
    if (!at) continue;
    cost += wish.landingWeight * (1 - (wish.metreOnly ? at.metreStrength : at.strength));
    if (wish.plannedLanding !== null && wish.plannedLanding !== place) cost += 0.25;
    const passage = at.kind === "section" || at.kind === "marker" ? 1 : at.kind === "phrase" ? 0.5 : 0;
    if (wish.startsPassage) cost += 2 * (1 - passage);
  }
  return cost;
}

/** Tries every way to choose landings. */
function cheapest(problem: OrderProblem): number {
  const { landings, slots, ends } = problem;
  for (let factor = 1; factor <= 1024; factor *= 2) {
    let best = Infinity;
    const choose = (from: number, chosen: Landing[]): void => {
      if (chosen.length === slots.length - 1) {
        for (const end of ends) best = Math.min(best, costOf(problem, chosen, end, factor));
        return;
      }
      for (let i = from; i < landings.length; i++) choose(i + 1, [...chosen, itemAt(landings, i)]);
    };
    choose(0, []);
    if (best < Infinity) return best;
    if (slots.every((wish) => wish.maximumSeconds * factor >= lastOf(ends).seconds)) return Infinity;
  }
  return Infinity;
}

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
        const best = cheapest(problem);
        expect(isPossible(problem)).toBe(best < Infinity);
        if (best === Infinity) {
          expect(solution).toBeNull();
          return;
        }
        possible++;
        expect(present(solution).cost).toBeCloseTo(best, 9);
        const end = present(problem.ends.find(({ seconds }) => seconds === present(solution).endSeconds));
        expect(costOf(problem, present(solution).landings, end, present(solution).maximumFactor)).toBeCloseTo(best, 9);
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

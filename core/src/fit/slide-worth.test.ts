import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { fitSlidesList as slides } from "../testing/index.ts";
import { mostWorth } from "./slide-worth.ts";

const gapsOf = (chosen: readonly number[]): number[] => chosen.slice(1).map((index, i) => index - itemAt(chosen, i));

describe("slides of most worth", () => {
  it("are as many as asked for, of equal ones with the first and the last, and evenly: gaps have four lengths at most", () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 400 }), fc.double({ min: 0, max: 1, noNaN: true }), (all, share) => {
        const count = Math.max(2, Math.round(share * all));
        const chosen = mostWorth(slides(all), count);
        expect(chosen).toHaveLength(count);
        expect([chosen.at(0), chosen.at(-1)]).toEqual([0, all - 1]);
        // Three lengths by the three-gap theorem, and others beside the first and the last.
        expect(new Set(gapsOf(chosen).slice(1, -1)).size).toBeLessThanOrEqual(3);
      }),
    );
  });

  it("stay the same where one less is asked for, but for one that goes", () => {
    for (let count = 60; count > 2; count--) {
      const [more, less] = [mostWorth(slides(60), count), mostWorth(slides(60), count - 1)];
      expect(less.filter((index) => !more.includes(index))).toEqual([]);
    }
  });

  it("stay the same where one is left out or is made a hero, but for one near it", () => {
    const before = mostWorth(slides(60), 25);
    for (const changed of before.slice(1, -1)) {
      const rest = slides(60).filter((_, index) => index !== changed);
      const after = mostWorth(rest, 25).map((index) => itemAt(rest, index).place - 1);
      const come = after.filter((index) => !before.includes(index));
      expect(come).toHaveLength(1);
      expect(Math.abs(itemAt(come, 0) - changed)).toBeLessThanOrEqual(3);

      // A hero stands for two.
      const spans = slides(60).map((_, index) => (index === changed ? 2 : 1));
      const withHero = mostWorth(slides(60, { [changed]: { hero: true } }), 24, spans);
      const gone = before.filter((index) => !withHero.includes(index));
      expect(withHero.filter((index) => !before.includes(index))).toEqual([]);
      expect(gone).toHaveLength(1);
      expect(Math.abs(itemAt(gone, 0) - changed)).toBeLessThanOrEqual(5);
    }
  });

  it("are those that cost most to leave out", () => {
    const anySlide = fc.record({
      rating: fc.constantFrom("keep" as const, "maybe" as const),
      hero: fc.boolean(),
      stays: fc.boolean(),
      hasBetterLike: fc.boolean(),
    });
    const worth = ({
      rating,
      hero,
      stays,
      hasBetterLike,
    }: typeof anySlide extends fc.Arbitrary<infer S> ? S : never) =>
      stays ? 100 : hero ? 9 : hasBetterLike ? 0.5 : rating === "keep" ? 3 : 1;
    fc.assert(
      fc.property(fc.array(anySlide, { minLength: 1, maxLength: 30 }), fc.nat({ max: 29 }), (list, less) => {
        const all = slides(list.length).map((slide, i) => ({ ...slide, ...itemAt(list, i) }));
        const count = Math.max(1, list.length - less);
        const chosen = mostWorth(all, count);
        const spans = all.map(({ hero }) => (hero ? 2 : 1));
        expect(mostWorth(all, count, spans)).toHaveLength(count);
        const best = list
          .map(worth)
          .sort((a, b) => b - a)
          .slice(0, count);
        expect(chosen.map((index) => worth(itemAt(list, index))).sort((a, b) => b - a)).toEqual(best);
      }),
    );
  });
});

import { describe, expect, it } from "vitest";
import { fitRequest as request, fitSlidesList as slides } from "../testing/index.ts";
import { cheapestChoice } from "./cheapest-choice.ts";
import type { ChosenOrder, SlideChoice } from "./choose-order.ts";
import type { FitResult } from "./index.ts";

/** Which choices are tried, where each has room and none is cheaper. */
function tried(list: ReturnType<typeof slides>, shown: readonly number[], landings: number): number[][] {
  const choices: number[][] = [];
  const chosen = (indices: readonly number[]): ChosenOrder => ({
    order: indices.map((slideIndex) => ({ slideIndex, round: 0 })),
    askedSeconds: null,
  });
  const choice = { orders: () => [chosen(shown)], chosen, hasRoomFor: () => true } as unknown as SlideChoice;
  const lay = ({ order }: ChosenOrder): FitResult => {
    const indices = order.map(({ slideIndex }) => slideIndex);
    choices.push(indices);
    const leftOut = list.map((_, index) => index).filter((index) => !indices.includes(index));
    const cost = choices.length > 1 ? 1_000 : 0;
    return { slots: order, leftOut, repeats: 0, cost, unmetLocks: [], maximumFactor: 1 } as unknown as FitResult;
  };
  cheapestChoice(request({ slides: list }), choice, lay, landings);
  return choices.slice(1);
}

describe("the choices that are tried", () => {
  it("are in large films two slides on either side of a lock, in and out", () => {
    const list = slides(30, { 15: { landingLockSeconds: 20 } });
    // Every third one is left out.
    const shown = list.map((_, index) => index).filter((index) => index % 3 !== 1);
    const changed = tried(list, shown, 100).map((choice) => ({
      gone: shown.filter((index) => !choice.includes(index)),
      come: choice.filter((index) => !shown.includes(index)),
    }));
    expect(new Set(changed.flatMap(({ gone }) => gone))).toEqual(new Set([12, 14, 17, 18]));
    expect(new Set(changed.flatMap(({ come }) => come))).toEqual(new Set([10, 13, 16, 19]));
    expect(changed.every(({ gone, come }) => gone.length <= 1 && come.length <= 1)).toBe(true);
  });

  it("are in small films all that differ by two slides", () => {
    const list = slides(6);
    const shown = [0, 1, 3, 5];
    const all = tried(list, shown, 10);
    // Up to two of four go and up to two of two come, at least one slide changes and one is shown.
    expect(all).toHaveLength((1 + 4 + 6) * (1 + 2 + 1) - 1);
  });
});

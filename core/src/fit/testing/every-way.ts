import { itemAt, lastOf, present } from "../../presence/index.ts";
import type { Landing } from "../landings.ts";
import type { OrderProblem } from "../order-problem.ts";

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
export function costOfWay(
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

/** What the cheapest way costs, and by how much all maxima are let go for it. */
export interface CheapestWay {
  readonly cost: number;
  readonly factor: number;
}

/** Tries every way to choose landings; null where none is allowed. */
export function cheapestWay(problem: OrderProblem): CheapestWay | null {
  const { landings, slots, ends } = problem;
  for (let factor = 1; factor <= 1024; factor *= 2) {
    let best = Infinity;
    const choose = (from: number, chosen: Landing[]): void => {
      if (chosen.length === slots.length - 1) {
        for (const end of ends) best = Math.min(best, costOfWay(problem, chosen, end, factor));
        return;
      }
      for (let i = from; i < landings.length; i++) choose(i + 1, [...chosen, itemAt(landings, i)]);
    };
    choose(0, []);
    if (best < Infinity) return { cost: best, factor };
    if (slots.every((wish) => wish.maximumSeconds * factor >= lastOf(ends).seconds)) return null;
  }
  return null;
}

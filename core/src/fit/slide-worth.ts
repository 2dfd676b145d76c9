import { itemAt, valueFor } from "../presence/index.ts";
import type { SlideForFit } from "./fit-request.ts";

const LEFT_OUT_COST = { alike: 0.5, maybe: 1, keep: 3, hero: 6 };

/**
 * What it costs a film to leave a slide out, in the weights of docs/fit.md: less where a picture
 * that is nearly the same is better, or where it is rated maybe; more for a hero.
 */
export function leftOutCost({ hasBetterLike, rating, hero }: SlideForFit): number {
  if (hero) return LEFT_OUT_COST.hero;
  return hasBetterLike ? LEFT_OUT_COST.alike : LEFT_OUT_COST[rating];
}

/**
 * Whether a person said that a slide is shown: it must stay, or is locked to a place or a length.
 */
export const isHeld = ({ stays, landingLockSeconds, lengthLockSeconds }: SlideForFit): boolean =>
  stays || landingLockSeconds !== null || lengthLockSeconds !== null;

/**
 * So many slides, as indices in their order: those that are held first, then by what it costs to
 * leave them out; of equal ones an even spread over the show, with its first and its last.
 */
export function mostWorth(slides: readonly SlideForFit[], count: number): number[] {
  const ranks = new Map<number, number[]>();
  for (const [index, slide] of slides.entries()) {
    const worth = isHeld(slide) ? Infinity : leftOutCost(slide);
    const rank = ranks.get(worth);
    if (rank) rank.push(index);
    else ranks.set(worth, [index]);
  }
  const chosen: number[] = [];
  for (const worth of [...ranks.keys()].sort((a, b) => b - a)) {
    const rank = valueFor(ranks, worth);
    chosen.push(...evenly(rank, Math.min(rank.length, count - chosen.length)));
  }
  return chosen.sort((a, b) => a - b);
}

/** So many of a list, evenly spread with both ends. */
function evenly(list: readonly number[], count: number): number[] {
  if (count <= 0) return [];
  if (count === 1) return [itemAt(list, 0)];
  return Array.from({ length: count }, (_, k) => itemAt(list, Math.round((k * (list.length - 1)) / (count - 1))));
}

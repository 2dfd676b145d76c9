import { itemAt, lastOf } from "../presence/index.ts";
import type { SlideForFit } from "./fit-request.ts";

const LEFT_OUT_COST = { alike: 0.5, maybe: 1, keep: 3, hero: 9 };

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
 * leave them out, evenly over the show. So many seats are spread over the places of the show, and
 * each is taken by the nearest slide of most worth. So a slide that is rated otherwise changes who
 * sits near it, and one seat less sends one slide away. A slide that stands for several, by
 * `spans`, takes the seats beside it too. O(count * slides).
 */
export function mostWorth(slides: readonly SlideForFit[], count: number, spans?: readonly number[]): number[] {
  const worth = slides.map((slide) => (isHeld(slide) ? Infinity : leftOutCost(slide)));
  const placeOf = (index: number): number => itemAt(slides, index).place;
  const spanOf = (index: number): number => spans?.[index] ?? 1;
  const seats = seatsOf(
    slides,
    [...slides.keys()].reduce((sum, index) => sum + spanOf(index) - 1, count),
  );
  const chosen: number[] = [];
  for (const rank of [...new Set(worth)].sort((a, b) => b - a)) {
    const all = [...slides.keys()].filter((index) => worth[index] === rank);
    const seated: number[] = [];
    const others = new Set<number>();
    for (const index of all) {
      if (seats.delete(placeOf(index))) seated.push(index);
      else others.add(index);
    }
    if (chosen.length + all.length <= count) {
      for (const index of all) {
        for (let taken = others.has(index) ? 0 : 1; taken < spanOf(index); taken++)
          seats.delete(nearest(seats, (seat) => Math.abs(seat - placeOf(index))));
      }
      chosen.push(...all);
      continue;
    }
    for (const seat of seats) {
      const index = nearest(others, (other) => Math.abs(placeOf(other) - seat));
      others.delete(index);
      seated.push(index);
    }
    // Those that stand for several may have taken seats that others had.
    chosen.push(...seated, ...others);
    break;
  }
  return chosen.slice(0, count).sort((a, b) => a - b);
}

/**
 * So many places of a show, rising: its first and its last, then those whose product with the
 * golden ratio has the smallest fraction. Whatever their number, the gaps between them have three
 * lengths at most (three-gap theorem, Sos 1958, from memory). One place more leaves the others.
 */
function seatsOf(slides: readonly SlideForFit[], count: number): Set<number> {
  const [first, last] = [itemAt(slides, 0).place, lastOf(slides).place];
  const turn = (place: number): number => (place === first || place === last ? 0 : (place * GOLDEN_RATIO) % 1);
  const places = Array.from({ length: last - first + 1 }, (_, i) => first + i);
  const seats = places.sort((a, b) => turn(a) - turn(b)).slice(0, count);
  return new Set(seats.sort((a, b) => a - b));
}

const GOLDEN_RATIO = (1 + Math.sqrt(5)) / 2;

/** The item with the smallest distance, of equal ones the first. */
function nearest(items: Iterable<number>, distance: (item: number) => number): number {
  let [best, least] = [-1, Infinity];
  for (const item of items) {
    if (distance(item) >= least) continue;
    [best, least] = [item, distance(item)];
  }
  return best;
}

import { itemAt } from "../presence/index.ts";
import type { ChosenOrder, SlideChoice } from "./choose-order.ts";
import { costOfFit } from "./fit-cost.ts";
import type { FitRequest, FitResult, SlideForFit } from "./fit-request.ts";
import { isHeld } from "./slide-worth.ts";

/**
 * How much is tried to better a choice, over all trials: slots times landings, and as much as a
 * trial costs at least. Small shows are tried through; of large ones only the first choice is laid.
 */
const MOST_WORK = 400_000;
const WORK_OF_A_TRIAL = 2_500;

/** Of a large film, so many slides on either side of a lock are tried in and out. */
const NEAR_A_LOCK = 2;

/**
 * The cheapest film of those that a choice of slides proposes. Where slides are left out it is then
 * bettered by up to two slides more and two less until no such step helps; in large films by slides
 * near locks alone. How far that is from the best of all choices is measured by `npm run
 * bench:fit`. The same every time.
 */
export function cheapestChoice(
  request: FitRequest,
  choice: SlideChoice,
  lay: (chosen: ChosenOrder) => FitResult,
  landings: number,
): FitResult {
  const cheaper = (best: FitResult, fit: FitResult): FitResult =>
    costOfFit(request, fit) < costOfFit(request, best) ? fit : best;
  let best = choice.orders().map(lay).reduce(cheaper);
  if (best.leftOut.length === 0) return best;
  // Where clips are too short and come again, slides that were left out take those places.
  const slots = best.repeats > 0 ? best.slots.length : 0;
  if (slots > 0) best = cheaper(best, lay(choice.chosen(choice.mostWorth(slots))));
  let trials = Math.floor(MOST_WORK / (WORK_OF_A_TRIAL + landings * best.slots.length));
  for (let isBetter = true; isBetter; ) {
    isBetter = false;
    for (const shown of neighbours(request, best.leftOut, trials)) {
      if (shown.length > slots && !choice.hasRoomFor(shown)) continue;
      if (trials-- <= 0) return best;
      const fit = cheaper(best, lay(choice.chosen(shown)));
      isBetter ||= fit !== best;
      best = fit;
    }
  }
  return best;
}

/**
 * All choices that show up to two slides less and up to two more, those with as many slides first;
 * what a person holds stays. Where they are more than can be tried, those of one slide near a lock.
 */
function neighbours({ slides }: FitRequest, leftOut: readonly number[], most: number): number[][] {
  const out = new Set(leftOut);
  const shown = slides.map((_, index) => index).filter((index) => !out.has(index));
  const free = shown.filter((index) => !isHeld(itemAt(slides, index)));
  const isSmall = setsUpToTwo(free.length) * setsUpToTwo(leftOut.length) <= most;
  const locks = slides.flatMap((slide, index) => (isLocked(slide) ? [index] : []));
  const lists = (list: readonly number[]): number[][] =>
    isSmall ? upToTwo(list) : [[], ...nearest(list, locks).map((one) => [one])];
  const found: number[][] = [];
  for (const gone of lists(free)) {
    const rest = shown.filter((index) => !gone.includes(index));
    for (const more of lists(leftOut)) {
      if (gone.length + more.length > 0 && rest.length + more.length > 0)
        found.push([...rest, ...more].sort((a, b) => a - b));
    }
  }
  return found.sort((a, b) => Math.abs(a.length - shown.length) - Math.abs(b.length - shown.length));
}

const isLocked = ({ landingLockSeconds, lengthLockSeconds }: SlideForFit): boolean =>
  landingLockSeconds !== null || lengthLockSeconds !== null;

/** The slides of a list that are nearest to locked ones, on either side. Both lists rise. */
function nearest(list: readonly number[], locks: readonly number[]): number[] {
  const near = locks.flatMap((lock) => [
    ...list.filter((index) => index < lock).slice(-NEAR_A_LOCK),
    ...list.filter((index) => index > lock).slice(0, NEAR_A_LOCK),
  ]);
  return [...new Set(near)];
}

/** Every set of none, one or two members of a list. */
const upToTwo = (list: readonly number[]): number[][] => [
  [],
  ...list.map((one) => [one]),
  ...list.flatMap((one, i) => list.slice(i + 1).map((other) => [one, other])),
];

const setsUpToTwo = (count: number): number => 1 + count + (count * (count - 1)) / 2;

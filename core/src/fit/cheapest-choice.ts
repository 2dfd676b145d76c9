import type { ChosenOrder, SlideChoice } from "./choose-order.ts";
import { costOfFit } from "./fit-cost.ts";
import type { FitRequest, FitResult } from "./fit-request.ts";
import { isHeld } from "./slide-worth.ts";

/**
 * How much is tried to better a choice, over all trials: slots times landings, and as much as a trial
 * costs at least. Small shows are tried through; of large ones only the first choice is laid.
 */
const MOST_WORK = 400_000;
const WORK_OF_A_TRIAL = 2_500;

/**
 * The cheapest film of those that a choice of slides proposes. Where slides are left out it is then
 * bettered one slide at a time (one more, one less, one for another) until no such step helps: how
 * far that is from the best of all choices is measured by `npm run bench:fit`. The same every time.
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
  let trials = Math.floor(MOST_WORK / (WORK_OF_A_TRIAL + landings * best.slots.length));
  const { length } = best.leftOut;
  if (length === 0 || setsUpToTwo(length) * setsUpToTwo(request.slides.length - length) > trials) return best;
  for (let isBetter = true; isBetter; ) {
    isBetter = false;
    for (const shown of neighbours(request, best.leftOut)) {
      if (trials-- <= 0) return best;
      if (!choice.hasRoomFor(shown)) continue;
      const fit = cheaper(best, lay(choice.chosen(shown)));
      isBetter ||= fit !== best;
      best = fit;
    }
  }
  return best;
}

/** All choices that show up to two slides less and up to two more; what a person holds stays. The nearest first. */
function neighbours({ slides }: FitRequest, leftOut: readonly number[]): number[][] {
  const out = new Set(leftOut);
  const shown = slides.map((_, index) => index).filter((index) => !out.has(index));
  const free = shown.filter((index) => !isHeld(slides[index]!));
  const found: number[][] = [];
  for (const gone of upToTwo(free)) {
    const rest = shown.filter((index) => !gone.includes(index));
    for (const more of upToTwo(leftOut)) {
      if (gone.length + more.length > 0 && rest.length + more.length > 0)
        found.push([...rest, ...more].sort((a, b) => a - b));
    }
  }
  return found.sort((a, b) => Math.abs(a.length - shown.length) - Math.abs(b.length - shown.length));
}

/** No, one or two of a list, each set once. */
const upToTwo = (list: readonly number[]): number[][] => [
  [],
  ...list.map((one) => [one]),
  ...list.flatMap((one, i) => list.slice(i + 1).map((other) => [one, other])),
];

const setsUpToTwo = (count: number): number => 1 + count + (count * (count - 1)) / 2;

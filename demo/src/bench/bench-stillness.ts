import { fitShow, type ShowFit } from "@humming-tide/core/film";
import { costOfFit, type FitRequest, type FitResult, fitSlides, LEAVING_COST } from "@humming-tide/core/fit";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import { changeSlides, lockLanding, type ShowDocument } from "@humming-tide/core/show";
import { corpusFilms } from "./corpus-films.ts";
import { median } from "./measure.ts";

/** Small edits of a show, each around its middle. */
const EDITS: Readonly<Record<string, (show: ShowDocument, fit: ShowFit) => ShowDocument | null>> = {
  "a landing dragged by a bar": (show, fit) => {
    const { slot, barSeconds } = middle(fit);
    const seconds = (slot.landing?.seconds ?? 0) + barSeconds;
    return lockLanding(show, itemAt(show.slides, slot.slideIndex).id, {
      songId: itemAt(show.songs, 0).id,
      seconds,
      turn: 0,
    });
  },
  "a length locked at two bars": (show, fit) => {
    const { slot, barSeconds } = middle(fit);
    const id = itemAt(show.slides, slot.slideIndex).id;
    return changeSlides(show, new Set([id]), { length: { seconds: 2 * barSeconds, locked: true } });
  },
  "a picture left out": (show, fit) =>
    changeSlides(show, new Set([itemAt(show.slides, middle(fit).slot.slideIndex).id]), { rating: "out" }),
  "a hero made": (show, fit) =>
    changeSlides(show, new Set([itemAt(show.slides, middle(fit).slot.slideIndex).id]), { hero: true }),
};

function middle({ request: { music }, result: { slots } }: ShowFit) {
  const { beats, beatsPerBar } = music;
  const beatSeconds = (lastOf(beats).seconds - itemAt(beats, 0).seconds) / (beats.length - 1);
  return { slot: itemAt(slots, slots.length >> 1), barSeconds: beatsPerBar * beatSeconds };
}

/**
 * Prints how many other landings move after one small edit: a slide keeps its place where nothing
 * was asked.
 */
export function benchStillness(folder: string): void {
  console.log(
    "  | edit | landings that move, median | at most 6 | worst | of | pictures that come, go | dearer than the best, median | 9 of 10 |",
  );
  console.log("  |---|---|---|---|---|---|---|---|");
  for (const [name, edit] of Object.entries(EDITS)) {
    const moved: number[] = [];
    const dearer: number[] = [];
    const others = { come: 0, go: 0 };
    let slots = 0;
    for (const { show, facts } of corpusFilms(folder, [60, 140])) {
      const before = fitShow(show, facts);
      const edited = edit(show, before);
      if (!edited) continue;
      slots = Math.max(slots, before.result.slots.length);
      const after = fitShow(edited, facts);
      moved.push(movedLandings(before, after));
      others.come += shownOnlyIn(after, before);
      others.go += shownOnlyIn(before, after);
      dearer.push(costAboveBest(after));
    }
    const few = moved.filter((count) => count <= 6).length;
    dearer.sort((a, b) => a - b);
    const costs = [median(dearer), itemAt(dearer, Math.floor(0.9 * dearer.length))].map(
      (share) => `${(100 * share).toFixed(1)} %`,
    );
    const perFilm = [others.come, others.go].map((count) => (count / moved.length).toFixed(1)).join(", ");
    const cells = [name, median(moved), `${few} of ${moved.length}`, Math.max(...moved), slots, perFilm, ...costs];
    console.log(`  | ${cells.join(" | ")} |`);
  }
}

/**
 * How many slides begin elsewhere than before, to the hundredth of a second; slides that came or
 * went do not count.
 */
function movedLandings(before: ShowFit, after: ShowFit): number {
  const places = ({ result, used }: ShowFit): Map<string, number> =>
    new Map(
      result.slots.map(({ slideIndex, round, landing }) => [
        `${itemAt(used, slideIndex).slide.id} ${round}`,
        Math.round(100 * (landing?.seconds ?? 0)),
      ]),
    );
  const [old, now] = [places(before), places(after)];
  return [...now].filter(([slide, place]) => old.has(slide) && old.get(slide) !== place).length;
}

/** How many slides one film shows that another does not. */
function shownOnlyIn(film: ShowFit, other: ShowFit): number {
  const idsOf = ({ result, used }: ShowFit): Set<string> =>
    new Set(result.slots.map(({ slideIndex }) => itemAt(used, slideIndex).slide.id));
  const others = idsOf(other);
  return [...idsOf(film)].filter((id) => !others.has(id)).length;
}

/**
 * By which share the film costs more than the best, what it costs to leave the plan not counted.
 */
function costAboveBest({ request, result }: ShowFit): number {
  const best = fitSlides({ ...request, keepsPlan: false });
  const planned = startsOf(fitSlides(unlocked(request)));
  const left = [...startsOf(result)].filter(([slide, at]) => planned.has(slide) && planned.get(slide) !== at).length;
  const isLocked = [...request.slides].some((slide) => slide.landingLockSeconds ?? slide.lengthLockSeconds);
  const cost = costOfFit(request, result) - (isLocked ? LEAVING_COST * left : 0);
  return cost / costOfFit(request, best) - 1;
}

const startsOf = ({ slots }: FitResult): Map<string, number> =>
  new Map(slots.map(({ slideIndex, round, landing }) => [`${slideIndex} ${round}`, landing?.seconds ?? 0]));

const unlocked = (request: FitRequest): FitRequest => ({
  ...request,
  slides: request.slides.map((slide) => ({
    ...slide,
    wishedSeconds: slide.lengthLockSeconds === null ? slide.wishedSeconds : null,
    lengthLockSeconds: null,
    landingLockSeconds: null,
  })),
});

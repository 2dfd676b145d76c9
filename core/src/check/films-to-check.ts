import { type FilmFacts, type FilmPlan, filmInSize, planOutput } from "../film/index.ts";
import { type Size, shapeOf } from "../picture/index.ts";
import { itemAt } from "../presence/index.ts";
import type { FilmOutput, ShowDocument } from "../show/index.ts";
import { checkFlashes } from "./check-drawn.ts";
import type { Finding } from "./finding.ts";
import { type FlashStretch, flashSize } from "./flash-watch.ts";

/** A film whose frames are looked at, in the size in which they are. */
export interface FilmToCheck {
  /** The outputs that look like it; empty: the show as it is laid. */
  readonly outputs: readonly string[];
  readonly plan: FilmPlan;
  /** It is laid on other bars than the show: its seconds and slots are its own. */
  readonly isPart: boolean;
}

/**
 * The films of a show that differ in what flashes: the show itself first, then one for each shape
 * and each part that its outputs have. Sizes of one shape look alike. Outputs that cannot be
 * planned are left out: that is said where they are exported.
 */
export function filmsToCheck(show: ShowDocument, plan: FilmPlan, facts: FilmFacts): FilmToCheck[] {
  const films: FilmToCheck[] = [
    { outputs: [], plan: filmInSize(show, plan, facts, flashSize(plan.size)), isPart: false },
  ];
  const groups = new Map<string, FilmOutput[]>();
  for (const output of show.outputs) {
    if (output.part === null && shapeOf(output.size) === shapeOf(plan.size)) continue;
    const key = `${shapeOf(output.size)} ${JSON.stringify(output.part)}`;
    groups.set(key, [...(groups.get(key) ?? []), output]);
  }
  for (const group of groups.values()) {
    const film = filmOf(show, plan, facts, itemAt(group, 0));
    if (film)
      films.push({ outputs: group.map(({ name }) => name), plan: film, isPart: itemAt(group, 0).part !== null });
  }
  return films;
}

function filmOf(show: ShowDocument, plan: FilmPlan, facts: FilmFacts, output: FilmOutput): FilmPlan | null {
  const size: Size = flashSize(output.size);
  if (output.part === null) return filmInSize(show, plan, facts, size);
  try {
    return planOutput(show, { ...output, size }, facts);
  } catch {
    return null;
  }
}

/**
 * What flashes in these films, each seen as `stretches` say; of another shape only what does not
 * flash in the show itself.
 */
export function checkFlashesOf(
  films: readonly FilmToCheck[],
  stretches: readonly (readonly FlashStretch[])[],
): Finding[] {
  const found = films.map(({ plan }, index) => checkFlashes(plan, stretches[index] ?? []));
  const [own = []] = found;
  const known = new Set(own.map(({ place }) => place.slideId));
  return films.flatMap(({ outputs, isPart }, index) => {
    if (index === 0) return own;
    const others = isPart
      ? itemAt(found, index)
      : itemAt(found, index).filter(({ place }) => !known.has(place.slideId));
    return others.map((finding) => ({
      ...finding,
      place: {
        ...finding.place,
        outputs: [...outputs],
        ...(isPart ? { slotIndex: null, seconds: null } : {}),
      },
      onlyInOutputs: true,
    }));
  });
}

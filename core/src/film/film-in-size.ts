import type { Size } from "../picture/index.ts";
import { itemAt } from "../presence/index.ts";
import type { ShowDocument } from "../show/index.ts";
import type { FilmFacts } from "./film-facts.ts";
import type { FilmPlan } from "./plan-film.ts";
import { planPictures } from "./plan-pictures.ts";

/**
 * The same film in another size: slots and music are those of the plan, framing and moves are
 * planned for the new shape. Throws `missing-picture`.
 */
export function filmInSize(show: ShowDocument, plan: FilmPlan, facts: Pick<FilmFacts, "seen">, size: Size): FilmPlan {
  const laid = plan.slots.map(({ slideIndex, round, startFrame, endFrame, landing }) => ({
    slide: itemAt(show.slides, slideIndex),
    round,
    startFrame,
    endFrame,
    landingSeconds: landing?.seconds ?? null,
  }));
  const pictures = planPictures({ ...show, size }, laid, facts, plan.music);
  return { ...plan, size, slots: plan.slots.map((slot, i) => ({ ...slot, ...itemAt(pictures, i) })) };
}

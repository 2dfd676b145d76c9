import {
  changeSlides,
  type Rating,
  removeSlides,
  type ShowDocument,
  splitPassage,
  turnSlides,
} from "@humming-tide/core/show";
import type { LetterName } from "../keys/letters.ts";
import { edit } from "./edit.ts";

/**
 * What can be done to slides, from keys, buttons and the large look alike. Each is one undo step.
 */

export const rate = (ids: ReadonlySet<string>, rating: Rating): void =>
  edit((show) => changeSlides(show, ids, { rating }));

/** All become heroes, unless all are: then none is. */
export const toggleHero = (ids: ReadonlySet<string>): void =>
  edit((show) => changeSlides(show, ids, { hero: !allHeroes(show, ids) }));

export const allHeroes = (show: ShowDocument, ids: ReadonlySet<string>): boolean =>
  show.slides.every((slide) => !ids.has(slide.id) || slide.hero);

export const turn = (ids: ReadonlySet<string>, quarterTurns: number): void =>
  edit((show) => turnSlides(show, ids, quarterTurns));

export const takeOut = (ids: ReadonlySet<string>): void => edit((show) => removeSlides(show, ids));

export const beginPassageAt = (id: string): void => edit((show) => splitPassage(show, id));

export const makePoster = (posterSlideId: string): void => edit((show) => ({ ...show, posterSlideId }));

/** The letters of culling: the rating, or hero. Null for any other. */
export const cullKey = (letter: LetterName | null): Rating | "hero" | null =>
  letter === "keep" || letter === "maybe" || letter === "out" || letter === "hero" ? letter : null;

export function cull(ids: ReadonlySet<string>, what: Rating | "hero"): void {
  if (what === "hero") toggleHero(ids);
  else rate(ids, what);
}

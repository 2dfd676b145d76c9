import type { FilmPlan } from "@humming-tide/core/film";
import type { ShowDocument } from "@humming-tide/core/show";
import { type MovedLandings, movedLandings } from "./moved-landings.ts";

/** Tells what each change has moved: against the film before it, also while a drag goes on. */
export class MoveTeller {
  /** The newest film of a document that was no drag's. */
  #settled: { readonly document: ShowDocument; readonly plan: FilmPlan } | null = null;
  #wasSettled = true;

  /**
   * What `document` moved; null where it moved nothing, where a drag was given up, or where no film
   * came before. Undefined where nobody changed anything: the film is another one because its
   * songs, pictures or voices became known, and what was told before still holds. `isSettled`: no
   * drag goes on.
   */
  movedBy(plan: FilmPlan, document: ShowDocument, isSettled: boolean): MovedLandings | null | undefined {
    const before = this.#settled;
    const wasDragged = !this.#wasSettled;
    this.#wasSettled = isSettled;
    if (isSettled) this.#settled = { document, plan };
    if (before?.document === document) return wasDragged ? null : undefined;
    return before && movedLandings(before.plan, plan);
  }
}

import { songPlaceAt } from "@humming-tide/core/arrange";
import { lockLanding, type ShowDocument } from "@humming-tide/core/show";
import { store } from "./store.ts";

/**
 * Locks a slide to the music that is heard at a moment of the film: to the landing nearest to it,
 * or with `exact` just there; with null gives it free.
 */
export function lockedAt(show: ShowDocument, slideId: string, filmSeconds: number | null, exact = false): ShowDocument {
  const music = store.getState().view.plan?.music;
  return lockLanding(show, slideId, filmSeconds === null || !music ? null : songPlaceAt(music, filmSeconds), exact);
}

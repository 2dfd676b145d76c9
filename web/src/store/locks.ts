import { filmSecondsOf, songPlaceAt } from "@humming-tide/core/arrange";
import { lockLanding, type ShowDocument } from "@humming-tide/core/show";
import type { Seconds } from "@humming-tide/core/time";
import { store } from "./store.ts";

/**
 * Locks a slide to the music that is heard at a moment of the film: to the landing nearest to it,
 * or with `exact` just there; with null gives it free.
 */
export function lockedAt(show: ShowDocument, slideId: string, filmSeconds: number | null, exact = false): ShowDocument {
  const music = store.getState().view.plan?.music;
  return lockLanding(show, slideId, filmSeconds === null || !music ? null : songPlaceAt(music, filmSeconds), exact);
}

/**
 * Where a slide's landing is locked, in seconds of the film; null where it is not. The show knows a
 * key press before the film is laid again, so the next press goes on from there.
 */
export function lockedSecondsOf(document: ShowDocument, slideId: string): Seconds | null {
  const music = store.getState().view.plan?.music;
  const lock = document.slides.find(({ id }) => id === slideId)?.landingLock;
  return music && lock ? filmSecondsOf(music, lock) : null;
}

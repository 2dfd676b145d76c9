export { type FilmFacts, filmFacts, type SeenMedia } from "./film-facts.ts";
export { filmInSize } from "./film-in-size.ts";
export { costOfFilm, type FitFacts, fitShow, type ShowFit } from "./fit-show.ts";
export { type GapOffer, gapOffers, takeGapOffer } from "./gap-offers.ts";
export { type FilmPlan, type FilmSlot, planFilm } from "./plan-film.ts";
export { placeInFilm, type SoundRemark } from "./plan-sound.ts";
export { USUAL_PLACES } from "./plan-words.ts";
export { applyFitChange, type FitChange, paceText, type WayOut, waysOut } from "./ways-out.ts";

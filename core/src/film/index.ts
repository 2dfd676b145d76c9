export { type FilmFacts, type FilmPlan, type FilmSlot, planFilm } from "./plan-film.ts";

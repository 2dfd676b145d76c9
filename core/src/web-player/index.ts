export { type HandStep, handSteps, stepAt } from "./hand-steps.ts";
export {
  PLAYER_FILM_VERSION,
  type PlayerClip,
  type PlayerFilm,
  type PlayerImage,
  type PlayerWords,
  pictureTrack,
  seenFrames,
  sheetsOf,
} from "./player-film.ts";

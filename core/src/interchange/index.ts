export { writeBeatsText } from "./beats-text/index.ts";
export { type FilmReport, filmReport, parseFilmReport } from "./film-report/index.ts";
export { type MusicJson, writeMusicJson } from "./music-json/index.ts";
export {
  type AppliedSlideList,
  applySlideList,
  readSlideList,
  type SlideListProblem,
  type SlideListRow,
  writeSlideList,
} from "./slide-list/index.ts";

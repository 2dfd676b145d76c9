export { readBeatsText, writeBeatsText } from "./beats-text/index.ts";
export { editListHolds, readEditList, writeEditList } from "./edit-list/index.ts";
export { type FilmReport, filmReport, isMeasurableFromFrames, parseFilmReport } from "./film-report/index.ts";
export { type FitPlanJson, fitPlanJson, fitPlanSchema, musicAnalysisOf } from "./fit-plan/index.ts";
export type { BeatMark, MarkerMark, Marks } from "./marks/index.ts";
export { readMarksCsv, writeMarksCsv } from "./marks-csv/index.ts";
export { MARKS_FORMATS, type MarksFormat, readMarks, writeMarks } from "./marks-file.ts";
export { readMarksMidi, writeMarksMidi } from "./midi/index.ts";
export { type MusicJson, writeMusicJson } from "./music-json/index.ts";
export { readOtio, writeOtio } from "./otio/index.ts";
export {
  type AppliedSlideList,
  applySlideList,
  readSlideList,
  type SlideListProblem,
  type SlideListRow,
  writeSlideList,
} from "./slide-list/index.ts";
export { writeSlotTable } from "./slot-table/index.ts";
export {
  compareTimings,
  type ImportedTimeline,
  mediaNames,
  type Timeline,
  type TimingDifference,
  timelineOf,
} from "./timeline/index.ts";
export { readWavCues, wavCueChunks, withWavCues } from "./wav-cues/index.ts";
export { readWebVtt, writeWebVtt } from "./webvtt/index.ts";

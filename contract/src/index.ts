export {
  type ApiError,
  apiErrorSchema,
  type CreateShow,
  createShowSchema,
  type Health,
  healthSchema,
  type SavedShow,
  savedShowSchema,
  type ShowSummary,
  showSummarySchema,
} from "./shows.ts";
export { type ExportJob, exportJobSchema, type JobState, jobStateSchema } from "./jobs.ts";
export { type MediaFacts, mediaFactsSchema, type PictureFacts, type SongFacts } from "./media.ts";
export { type FilmMeasurement, filmMeasurementSchema } from "./measurement.ts";

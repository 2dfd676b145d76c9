export { type ExportJob, exportJobSchema, type JobState, jobStateSchema } from "./jobs.ts";
export { type FilmMeasurement, filmMeasurementSchema } from "./measurement.ts";
export { type MediaFacts, mediaFactsSchema, type PictureFacts, type SongFacts } from "./media.ts";
export {
  type ApiError,
  apiErrorSchema,
  type CreateShow,
  createShowSchema,
  type Health,
  healthSchema,
  type SavedShow,
  type ShowSummary,
  savedShowSchema,
  showSummarySchema,
} from "./shows.ts";

export { type FilmFontFile, filmFontFileSchema } from "./fonts.ts";
export {
  ANNOUNCED_AT_ONCE,
  type AnnouncedFile,
  announcedFileSchema,
  announceSchema,
  type IntakeFile,
  intakeFileSchema,
} from "./intake.ts";
export {
  type Container,
  containerSchema,
  type ExportJob,
  exportJobSchema,
  type JobState,
  jobStateSchema,
  type Output,
  type OutputWish,
  outputSchema,
  outputWishSchema,
} from "./jobs.ts";
export { type FilmMeasurement, filmMeasurementSchema } from "./measurement.ts";
export {
  type ClipFacts,
  type MediaFacts,
  mediaFactsSchema,
  type PictureFacts,
  type ProxyState,
  proxyStateSchema,
  type SongFacts,
} from "./media.ts";
export {
  type ApiError,
  apiErrorSchema,
  createShowSchema,
  createTemplateSchema,
  DELETED_DAYS,
  duplicateShowSchema,
  type Health,
  healthSchema,
  type PackageEvent,
  packageEventSchema,
  placeShowSchema,
  type RevisionPage,
  type RevisionSummary,
  revisionPageSchema,
  type SavedShow,
  type SavedTemplate,
  type ShowPlace,
  type ShowState,
  type ShowSummary,
  savedShowSchema,
  savedTemplateSchema,
  showStateSchema,
  showSummarySchema,
} from "./shows.ts";
export {
  type LibrarySong,
  type LibrarySongNotes,
  librarySongNotesSchema,
  librarySongSchema,
  markedWavSchema,
} from "./songs.ts";

export { type CheckFacts, type CheckRun, checkFactsSchema, checkRunSchema } from "./checks.ts";
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
  type ExportJob,
  exportJobSchema,
  exportWishSchema,
  filmsFolderSchema,
  type JobState,
  jobStateSchema,
} from "./jobs.ts";
export { type FilmMeasurement, filmMeasurementSchema } from "./measurement.ts";
export {
  type ClipFacts,
  isSeen,
  type MediaFacts,
  mediaFactsSchema,
  type PictureFacts,
  type ProxyState,
  proxyStateSchema,
  type SongFacts,
  speechFactsSchema,
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

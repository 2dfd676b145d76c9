/** The show document: only what a person decided, its versions, and how two of them differ. */
export {
  type ClientOffer,
  clientOfferSchema,
  FIRST_CLIENT_OFFER,
  filmText,
  offeredOutput,
  type Price,
  sameFilm,
} from "./client-page.ts";
export { CONTAINER_FACTS, type Container, isVideo, type VideoContainer } from "./containers.ts";
export { dayText } from "./day-text.ts";
export {
  type ClipPart,
  FASTEST_CLIP,
  type FormerFile,
  hasPicture,
  type LandingLock,
  type Lead,
  MOST_FORMER_FILES,
  MOST_FORMER_SONGS,
  MOST_PICTURES,
  type MorePicture,
  newCard,
  newPassage,
  newShowDocument,
  newSlide,
  type Passage,
  type PictureSlide,
  type Rating,
  SHOW_DOCUMENT_VERSION,
  type ShowDocument,
  SLOWEST_CLIP,
  type Slide,
  type SlideView,
  type SongPlace,
  showDocumentSchema,
  slideName,
  type TransitionLanding,
  type Turn,
} from "./document.ts";
export {
  type DocumentDelta,
  deltaBetween,
  documentDeltaSchema,
  isEmptyDelta,
  type MemberList,
  withDelta,
} from "./document-delta.ts";
export { readShowDocument } from "./document-versions.ts";
export {
  type MergeConflict,
  type MergedDocument,
  type MergePlace,
  type MergeSide,
  mergeDocuments,
} from "./merge-documents.ts";
export { type NamedPicture, namedGraphics, namedPictures } from "./named-pictures.ts";
export { heardSounds, namedTakes } from "./named-sounds.ts";
export {
  type FilmOutput,
  type FilmPart,
  filmOutputSchema,
  MOST_OUTPUTS,
  mainOutput,
  QUALITIES,
  type Quality,
  SHORT_FILM_SECONDS,
  type Watermark,
} from "./outputs.ts";
export { posterSlide } from "./poster-slide.ts";
export {
  LARGEST_SPEED_CHANGE,
  MARKER_KINDS,
  MARKER_ORIGINS,
  type Marker,
  type MarkerKind,
  type MarkerOrigin,
  MOST_MARKERS,
  MOST_SECTIONS,
  newShowSong,
  SECTION_ROLES,
  type SectionRole,
  type ShowSong,
  type SongEntry,
  type SongJoin,
  type SongSection,
} from "./show-song.ts";
export { applyTemplate, type ShowTemplate, templateCards, templateOf, templateSchema } from "./template.ts";
export { factsAskedFor, type ShowFact } from "./template-cards.ts";
export {
  type ClipSound,
  FIRST_CLIP_SOUND,
  type LevelPoint,
  LONGEST_FADE_SECONDS,
  LONGEST_OVERHANG_SECONDS,
  LOUDEST_DECIBELS,
  newVoice,
  SOFTEST_DECIBELS,
  type SoundMix,
  takeOf,
  type Voice,
  type VoicePlace,
  type VoiceTake,
  voiceName,
} from "./voice.ts";

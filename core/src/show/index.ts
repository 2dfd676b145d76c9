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
export { describeChange } from "./describe-change.ts";
export {
  type ClipPart,
  FASTEST_CLIP,
  hasPicture,
  type LandingLock,
  type Lead,
  MOST_PICTURES,
  type MorePicture,
  newCard,
  newPassage,
  newShowDocument,
  newSlide,
  type Pace,
  type Passage,
  type PictureSlide,
  type Point,
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
  type View,
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
export { LAYOUT_KINDS, type Layout } from "./layout.ts";
export { canGatherOnSlide, gatherOnSlide, takeFromSlide } from "./layout-edits.ts";
export {
  type CaptionStyle,
  FILM_FONTS,
  type FilmFont,
  type Letters,
  WORD_KINDS,
  WORD_PLACES,
  type WordPlace,
  type Words,
} from "./letters.ts";
export {
  type Edge,
  type Graphic,
  LOOK_KINDS,
  type Look,
  OVERLAY_KINDS,
  type Overlay,
} from "./looks.ts";
export { changeMarker, withMarkers, withoutMarkers } from "./marker-edits.ts";
export {
  type MergeConflict,
  type MergedDocument,
  type MergePlace,
  type MergeSide,
  mergeDocuments,
} from "./merge-documents.ts";
export { type NamedPicture, namedGraphics, namedPictures } from "./named-pictures.ts";
export { heardSounds, namedTakes } from "./named-sounds.ts";
export { naturalOrder } from "./natural-order.ts";
export { lockOrder, moveSlides, orderSlides, type SlideOrder, shiftClock, shiftSlides } from "./order-edits.ts";
export { addOutput, changeOutput, removeOutput } from "./output-edits.ts";
export {
  type FilmOutput,
  type FilmPart,
  filmOutputSchema,
  MOST_OUTPUTS,
  mainOutput,
  QUALITIES,
  type Quality,
  type Watermark,
} from "./outputs.ts";
export {
  addPassage,
  changePassage,
  dividePassages,
  gatherPassage,
  joinPassage,
  lockPassageStart,
  movePassageStart,
  shiftPassage,
  splitPassage,
} from "./passage-edits.ts";
export { posterSlide } from "./poster-slide.ts";
export {
  LARGEST_SPEED_CHANGE,
  MARKER_KINDS,
  MARKER_ORIGINS,
  type Marker,
  type MarkerKind,
  type MarkerOrigin,
  MOST_MARKERS,
  newShowSong,
  type ShowSong,
  type SongEntry,
  type SongJoin,
} from "./show-song.ts";
export {
  changeSlides,
  insertSlides,
  removeSlides,
  type SlideChange,
  type SlidePlace,
  turnSlides,
} from "./slide-edits.ts";
export { addSong, changeSong, chooseSong, lockLanding, removeSong, type SongChange, shiftSong } from "./song-edits.ts";
export {
  addTake,
  addVoice,
  changeClipSound,
  changeMix,
  changeVoice,
  chooseTake,
  freeVoiceId,
  removeTake,
  removeVoice,
  type VoiceChange,
} from "./sound-edits.ts";
export {
  AS_ABOVE,
  type DrawnTransition,
  FIRST_STYLE,
  type Fill,
  MOVE_KINDS,
  type MoveWish,
  PUSH_DIRECTIONS,
  type Style,
  type StyleWishes,
  styleWith,
  type TransitionWish,
  TURN_DIRECTIONS,
  VARIED_KINDS,
  WIPE_DIRECTIONS,
} from "./style.ts";
export { changeStyle, copyStyle, type StyleLevel, setView, styleOf } from "./style-edits.ts";
export { applyTemplate, type ShowTemplate, templateOf, templateSchema } from "./template.ts";
export { type FilmLength, frameRateSchema, frameSizeSchema } from "./values.ts";
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

/** Every edit of a show, as a function from document to document. */
export { changeText } from "./change-sentences.ts";
export { splitClip, takeClipParts } from "./clip-edits.ts";
export { type DocumentChange, describeChange, describeSlideChange } from "./describe-change.ts";
export { canGatherOnSlide, gatherOnSlide, takeFromSlide } from "./layout-edits.ts";
export { changeMarker, withMarkers, withoutMarkers } from "./marker-edits.ts";
export { naturalOrder } from "./natural-order.ts";
export { formerSongOf, type OpenLock, openLocks, placeLock } from "./open-locks.ts";
export { lockOrder, moveSlides, orderSlides, type SlideOrder, shiftClock, shiftSlides } from "./order-edits.ts";
export { addOutput, changeOutput, removeOutput } from "./output-edits.ts";
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
export { type OfferedFile, type RetouchedFile, type RetouchedFiles, retouchedFiles } from "./retouched-files.ts";
export { changeSection, joinSection, splitSection } from "./section-edits.ts";
export {
  arrivalPlace,
  changeSlides,
  insertSlides,
  removeSlides,
  type SlideChange,
  type SlidePlace,
  turnSlides,
} from "./slide-edits.ts";
export {
  addSong,
  changeSong,
  chooseSong,
  lockLanding,
  removeSong,
  type SongChange,
  settleLocks,
  shiftSong,
} from "./song-edits.ts";
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
export { changeStyle, copyStyle, type StyleLevel, setShapeFill, setView, styleOf } from "./style-edits.ts";
export { exchangeFiles, type SwappedFile, swapFiles } from "./swap-file.ts";
export { isSystemFile } from "./system-files.ts";

export { describeChange } from "./describe-change.ts";
export {
  type Fill,
  frameRateSchema,
  newShowDocument,
  newSlide,
  type Pace,
  type Passage,
  type Rating,
  type ShowDocument,
  type Slide,
  showDocumentSchema,
  type TransitionWish,
  type Turn,
} from "./document.ts";
export { readShowDocument } from "./document-versions.ts";
export { naturalOrder } from "./natural-order.ts";
export { lockOrder, moveSlides, orderSlides, type SlideOrder, shiftClock, shiftSlides } from "./order-edits.ts";
export {
  addPassage,
  changePassage,
  dividePassages,
  gatherPassage,
  joinPassage,
  shiftPassage,
  splitPassage,
} from "./passage-edits.ts";
export { chooseSong, posterSlide } from "./show-edits.ts";
export {
  changeSlides,
  insertSlides,
  lockLanding,
  removeSlides,
  type SlideChange,
  type SlidePlace,
  turnSlides,
} from "./slide-edits.ts";
export { applyTemplate, type ShowTemplate, templateOf, templateSchema } from "./template.ts";

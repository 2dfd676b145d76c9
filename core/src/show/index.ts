export {
  type Fill,
  frameRateSchema,
  newShowDocument,
  type Pace,
  type ShowDocument,
  type Slide,
  showDocumentSchema,
  type TransitionWish,
} from "./document.ts";
export { chooseSong, insertSlide, lockLanding, moveSlide, removeSlides } from "./edits.ts";
export { naturalOrder } from "./natural-order.ts";

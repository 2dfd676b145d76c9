export { explainFit, type FitMessage, namedLocks, type UnmetWish, unmetWishes } from "./explain-fit.ts";
export { costOfFit } from "./fit-cost.ts";
export { fitError } from "./fit-errors.ts";
export type {
  FitRequest,
  FitResult,
  FittedSlot,
  LockName,
  PassageForFit,
  SettledLock,
  SlideForFit,
} from "./fit-request.ts";
export { conflictText, fitMessageText, landingText, unmetWishText } from "./fit-sentences.ts";
export { fitSlides } from "./fit-slides.ts";
export type { Landing, MusicForFit } from "./landings.ts";
export { LEAVING_COST } from "./order-problem.ts";
export { LONGEST_SLOT_SECONDS, SHORTEST_FAST_SECONDS, SHORTEST_SLOT_SECONDS } from "./pace.ts";
export { type PaceUnits, paceInUnit, paceUnits } from "./pace-units.ts";
export { roomForSlides, slidesTooMany } from "./song-suits.ts";

export { explainFit, type FitMessage } from "./explain-fit.ts";
export {
  type FitRequest,
  type FitResult,
  type FittedSlot,
  fitSlides,
  LONGEST_SLOT_SECONDS,
  SHORTEST_SLOT_SECONDS,
} from "./fit-slides.ts";
export type { LandingCandidate } from "./landing-candidates.ts";

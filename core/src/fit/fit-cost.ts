import { itemAt } from "../presence/index.ts";
import type { FitRequest, FitResult } from "./fit-request.ts";
import { leftOutCost } from "./slide-worth.ts";

const REPEAT_COST = 1;
/** The same while another slide is left out. */
const REPEAT_INSTEAD_COST = 6;
/** Of each lock that is not kept, and of each doubling of how long pictures may stand. */
const LOCK_COST = 20;
/** Of clips that stand still beyond their end: whatever else fills the film is better. */
const STILL_COST = 10;

/**
 * What a film costs: its laying, every picture that is left out or comes again, every lock that is
 * not kept, and clips that stand still.
 */
export const costOfFit = ({ slides }: Pick<FitRequest, "slides">, result: FitResult): number =>
  result.cost +
  result.leftOut.reduce((sum, index) => sum + leftOutCost(itemAt(slides, index)), 0) +
  (result.leftOut.length > 0 ? REPEAT_INSTEAD_COST : REPEAT_COST) * result.repeats +
  (result.beyondMaterial ? STILL_COST : 0) +
  LOCK_COST * (result.unmetLocks.length + Math.log2(result.maximumFactor));

import { itemAt } from "../presence/index.ts";
import type { FitRequest, FitResult } from "./fit-request.ts";
import { leftOutCost } from "./slide-worth.ts";

const REPEAT_COST = 1;
/** Of each lock that is not kept, and of each doubling of how long pictures may stand. */
const LOCK_COST = 20;

/**
 * What a film costs: its laying, every picture that is left out or comes again, every lock that is
 * not kept.
 */
export const costOfFit = ({ slides }: Pick<FitRequest, "slides">, result: FitResult): number =>
  result.cost +
  result.leftOut.reduce((sum, index) => sum + leftOutCost(itemAt(slides, index)), 0) +
  REPEAT_COST * result.repeats +
  LOCK_COST * (result.unmetLocks.length + Math.log2(result.maximumFactor));

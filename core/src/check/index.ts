export { frameDifference, indexOfShownChange, shareOfAfter, VISIBLE_DIFFERENCE } from "./shown-change.ts";
export { soundLag } from "./sound-lag.ts";

export { ChangeWatch, framesAroundChange, type SeenChange, sharesOf, shiftOfShares } from "./change-watch.ts";
export { frameDifference, indexOfShownChange, shareOfAfter, VISIBLE_DIFFERENCE } from "./shown-change.ts";
export { SMALL_FRAME } from "./small-frame.ts";
export { soundLag } from "./sound-lag.ts";

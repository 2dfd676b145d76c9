export { ChangeWatch, framesAroundChange, type SeenChange, sharesOf, shiftOfShares } from "./change-watch.ts";
export { LOOK } from "./frame-look.ts";
export { frameDifference, indexOfShownChange, shareOfAfter, VISIBLE_DIFFERENCE } from "./shown-change.ts";
export { soundLag } from "./sound-lag.ts";

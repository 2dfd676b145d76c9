export { ChangeWatch, type SeenChange, sharesOf, shiftOfShares } from "./change-watch.ts";
export { LOOK, lookOfYuv420 } from "./frame-look.ts";
export { frameDifference, indexOfShownChange, shareOfAfter, VISIBLE_DIFFERENCE } from "./shown-change.ts";
export { soundLag } from "./sound-lag.ts";

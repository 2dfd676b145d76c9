export { drawFrame } from "./draw-frame.ts";
export { drawnPicture, parseDrawnPicture, turnedSize } from "./drawn-picture.ts";
export { framePicture, type Rectangle, type Size } from "./framing.ts";
export {
  type FramePlan,
  type PictureSlot,
  type PictureTrack,
  picturesBetween,
  planFrame,
  slotIndexAt,
} from "./plan-frame.ts";
export type { DrawableImage, ImageSource, Surface2D } from "./surface.ts";
export { dissolveShare, halfwayFrame, type PlannedTransition, placeTransitions } from "./transition.ts";

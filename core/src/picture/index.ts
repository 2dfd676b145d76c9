export { type ClipInstant, clipAt, clipFrameAt, type PlannedClip } from "./clip.ts";
export { drawFrame } from "./draw-frame.ts";
export { drawnPicture, parseDrawnPicture, turnedSize } from "./drawn-picture.ts";
export type { FramePlan, Ground, Layer, Mask, PictureLayer, ShadeLayer, Veil } from "./frame-plan.ts";
export {
  keepingInView,
  LARGEST_CROP,
  LARGEST_KNOWN_CROP,
  placedPicture,
  restView,
  seenPart,
  showsRegion,
  viewAround,
  viewOf,
  wholeZoom,
} from "./framing.ts";
export { coveringFrame, coversFrame, type Rectangle, type Size, shapeOf } from "./geometry.ts";
export { lot } from "./lots.ts";
export {
  chosenDirection,
  FASTEST_MOVE,
  isMoving,
  type MoveDirection,
  moveSpeed,
  type PlannedMove,
  placedAt,
  ruledViews,
} from "./moves.ts";
export {
  type PictureSlot,
  type PictureTrack,
  picturesBetween,
  planFrame,
  repeatsFrame,
  slotIndexAt,
} from "./plan-frame.ts";
export { type ColourRaster, findSubject, type Subject, subjectAt, turnSubject } from "./subject.ts";
export type { DrawableImage, ImageSource, PictureKind, Scratch, Surface2D } from "./surface.ts";
export {
  drawnStyles,
  halfwayFrame,
  newTransition,
  type PlannedTransition,
  placeTransitions,
  type TransitionStyle,
  transitionShare,
} from "./transition.ts";

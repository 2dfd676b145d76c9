export { insetCells, insideMargin, layoutCells } from "./cells.ts";
export { type ClipInstant, clipAt, clipFrameAt, type PlannedClip } from "./clip.ts";
export { drawFrame } from "./draw-frame.ts";
export { drawnPicture, parseDrawnPicture, turnedSize } from "./drawn-picture.ts";
export { type EntranceState, entranceAt, type PlannedEntrance } from "./entrance.ts";
export {
  AS_IT_IS,
  type FramePlan,
  type Ground,
  type Layer,
  type Mask,
  type PicturePart,
  type Placement,
  type SceneLayer,
  type ScenePart,
  type ShadeLayer,
  type Veil,
  type WordsPart,
} from "./frame-plan.ts";
export {
  coversSharply,
  coversWithHeads,
  keepingInView,
  LARGEST_CROP,
  LARGEST_KNOWN_CROP,
  MOST_ENLARGED,
  placedPicture,
  restView,
  seenPart,
  showsRegion,
  viewAround,
  viewIn,
  viewOf,
  wholeZoom,
} from "./framing.ts";
export { coveringFrame, coversFrame, type Rectangle, type Size, shapeOf, sharedShare, shifted } from "./geometry.ts";
export { type FoundFace, headAround, importantHeads, MOST_HEADS, openEyesShare, subjectOfHeads } from "./heads.ts";
export { applyLook, isAsTaken } from "./look.ts";
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
export { GRAIN_TILE_PIXELS, grainTile, type PlannedOverlay } from "./overlays.ts";
export {
  areaOf,
  type BesidePicture,
  clipsIn,
  imagesBetween,
  imagesIn,
  NO_WORDS,
  type PictureSlot,
  type PictureTrack,
  planFrame,
  repeatsFrame,
  type SlotWords,
  slotIndexAt,
} from "./plan-frame.ts";
export type { Ornament, PlannedLine, PlannedWords, WordSheet } from "./planned-words.ts";
export { placeShares, SAFE_KINDS, safeArea } from "./safe-area.ts";
export type { ColourRaster } from "./saliency.ts";
export { seededChoice } from "./seeded-choice.ts";
export { findSubject, type Subject, subjectAt, turnBack, turnBox, turnSubject } from "./subject.ts";
export type {
  DrawableImage,
  DrawnWords,
  DrawSources,
  ImageName,
  ImageSource,
  Scratch,
  Surface2D,
  WordPiece,
  WordPieceRole,
  WordSource,
} from "./surface.ts";
export { imageKey } from "./surface.ts";
export {
  drawnStyles,
  halfwayFrame,
  MOST_FLASHES_A_SECOND,
  newTransition,
  type PlannedTransition,
  placeTransitions,
  type TransitionStyle,
  transitionShare,
  withoutFlicker,
} from "./transition.ts";
export { type WordTime, wordAlpha } from "./word-time.ts";

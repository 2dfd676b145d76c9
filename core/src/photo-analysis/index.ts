export { haveBetterLikes, type PictureInOrder } from "./better-likes.ts";
export { blurEffect } from "./blur-effect.ts";
export { type Captured, commonSeconds, eventZone } from "./capture-time.ts";
export { Cascade, type CascadeFile } from "./eye-cascade.ts";
export { FINGERPRINT_SIDE, fingerprint, type GreyPicture, likeness, slopesOf } from "./fingerprint.ts";
export { byQuality, type PictureQuality } from "./picture-quality.ts";
export { type PictureShape, pictureShape } from "./picture-shape.ts";
export {
  PASSAGE_SENSITIVITY,
  type PassageSensitivity,
  type ProposedPassage,
  proposePassages,
  type TimedSlide,
} from "./propose-passages.ts";
export { type ComparedPicture, similarMoments } from "./similar-moments.ts";

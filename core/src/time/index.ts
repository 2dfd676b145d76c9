export { clockText, timeLeftText } from "./clock-text.ts";
export {
  type FrameRate,
  frameAt,
  frameRateName,
  frameStart,
  framesPerSecond,
  framesToCover,
  NAMED_FRAME_RATES,
  nearestFrame,
  parseFrameRate,
} from "./frame-rate.ts";
export { canDropFrame, frameOfTimecode, timecode } from "./timecode.ts";
export { asFrames, asMilliseconds, asSeconds } from "./unit-schemas.ts";
export type { Frames, Milliseconds, Samples, Seconds } from "./units.ts";

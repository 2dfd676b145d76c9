import { COLOURS, HELD_QUALITY_BITS, keyFrameEvery, type VideoFormat } from "./video-format.ts";
import { vp9WebM } from "./vp9-webm.ts";

/** "small" and "fine" are as far from what was drawn as those of H.264 (docs/export.md). */
const RATE_FACTORS = { small: 48, fine: 20, finest: 8 } as const;
/** Of 0 to 13: the quickest that takes no longer than H.264 at "finest". */
const PRESET = "10";

/** WebM with AV1 and Opus: the smallest files, where the encoder is there. */
export const av1WebM: VideoFormat = {
  ...vp9WebM,
  neededEncoder: "libsvtav1",
  bitsPerPixel: HELD_QUALITY_BITS,
  picture: (rate, quality) => [
    ...["-c:v", "libsvtav1", "-preset", PRESET, "-crf", String(RATE_FACTORS[quality])],
    ...["-pix_fmt", "yuv420p", "-g", keyFrameEvery(rate), ...COLOURS],
  ],
};

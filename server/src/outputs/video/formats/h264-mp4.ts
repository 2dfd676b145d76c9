import { ANY_SIZE, COLOURS, HELD_QUALITY_BITS, keyFrameEvery, ownTicks, type VideoFormat } from "./video-format.ts";

/** "fine" cannot be told from what was drawn (docs/export.md). */
const RATE_FACTORS = { small: 25, fine: 18, finest: 12 } as const;
const SOUND_KILOBITS = { small: 128, fine: 256, finest: 320 } as const;

/** MP4 with H.264 (ISO/IEC 14496-10) and AAC: plays everywhere. */
export const h264Mp4: VideoFormat = {
  neededEncoder: null,
  smallestSize: ANY_SIZE,
  bitsPerPixel: HELD_QUALITY_BITS,
  picture: (rate, quality) => [
    ...["-c:v", "libx264", "-preset", "veryfast", "-crf", String(RATE_FACTORS[quality])],
    ...["-pix_fmt", "yuv420p", "-g", keyFrameEvery(rate), ...COLOURS, ...ownTicks(rate)],
  ],
  sound: (quality) => ["-c:a", "aac", "-b:a", `${SOUND_KILOBITS[quality]}k`],
  pictureFile: ["-f", "mp4"],
  soundFile: ["-movflags", "+faststart", "-f", "ipod"],
  soundExtension: "m4a",
  film: (rate) => [...ownTicks(rate), "-movflags", "+faststart", "-f", "mp4"],
  holdsPoster: true,
};

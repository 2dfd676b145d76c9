import { COLOURS, ownTicks, type VideoFormat } from "./video-format.ts";

/** At 1080p25 it takes 176 Mbit/s: 3.4 bits for a pixel, whatever is in it. */
const BITS_PER_PIXEL = 3.5;

/**
 * A mezzanine for further editing: MOV with VC-3 (SMPTE ST 2019-1) of 10 bits, 4:2:2, every frame a
 * key frame, and PCM of 24 bits. Its quality cannot be chosen: it loses next to nothing.
 */
export const vc3Mov: VideoFormat = {
  neededEncoder: null,
  // Of the resolution-independent profiles.
  smallestSize: { width: 256, height: 120 },
  bitsPerPixel: { small: BITS_PER_PIXEL, fine: BITS_PER_PIXEL, finest: BITS_PER_PIXEL },
  picture: (rate) => [
    ...["-c:v", "dnxhd", "-profile:v", "dnxhr_hqx", "-pix_fmt", "yuv422p10le"],
    ...[...COLOURS, ...ownTicks(rate)],
  ],
  sound: () => ["-c:a", "pcm_s24le"],
  pictureFile: ["-f", "mov"],
  soundFile: ["-f", "mov"],
  soundExtension: "mov",
  film: (rate) => [...ownTicks(rate), "-movflags", "+faststart", "-f", "mov"],
  holdsPoster: false,
};

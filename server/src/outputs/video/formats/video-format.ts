import type { Quality } from "@humming-tide/core/show";
import type { FrameRate } from "@humming-tide/core/time";

/** How one kind of video file is encoded and packed by ffmpeg. */
export interface VideoFormat {
  /** The encoder that not every usable ffmpeg has; null where each has what it takes. */
  readonly neededEncoder: string | null;
  readonly smallestSize: { readonly width: number; readonly height: number };
  /** Bits for a pixel of a film, about: for the estimate of room on the disk. */
  readonly bitsPerPixel: Readonly<Record<Quality, number>>;
  /** Options that encode a film's picture, from frames of 4:2:0. */
  readonly picture: (rate: FrameRate, quality: Quality) => readonly string[];
  readonly sound: (quality: Quality) => readonly string[];
  /** Options that pack a stretch of the picture, or the whole film without sound. */
  readonly pictureFile: readonly string[];
  /** Options that pack the sound alone, and how such a file's name ends. */
  readonly soundFile: readonly string[];
  readonly soundExtension: string;
  /** Options that pack the film. */
  readonly film: (rate: FrameRate) => readonly string[];
  /** Whether a picture can stand for the film in the file. */
  readonly holdsPoster: boolean;
}

export const COLOURS: readonly string[] = [
  ...["-color_primaries", "bt709", "-color_trc", "bt709", "-colorspace", "bt709", "-color_range", "tv"],
];

/** Of most encoders. */
export const ANY_SIZE = { width: 16, height: 16 } as const;

/** A key frame at least every two seconds, so that a player finds any place at once. */
export const keyFrameEvery = (rate: FrameRate): string => String(Math.round((2 * rate.num) / rate.den));

/** Times in a rate's own ticks: every frame of a 1001 rate lies exactly where it belongs. */
export const ownTicks = (rate: FrameRate): readonly string[] => ["-video_track_timescale", String(rate.num)];

/**
 * Bits for a pixel where the quality is held: two to three times what the demo takes (0.05 at
 * "fine"), for photographs with more in them, and for grain.
 */
export const HELD_QUALITY_BITS: Readonly<Record<Quality, number>> = { small: 0.05, fine: 0.12, finest: 0.3 };

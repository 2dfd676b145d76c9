import { itemAt } from "@humming-tide/core/presence";
import { ffmpeg } from "./run-ffmpeg.ts";

export const NUMBERED_CLIP = { width: 160, height: 96, frames: 90 } as const;

/**
 * A clip whose frame k shows the number k as eight upright stripes: black for 0, white for 1. The
 * highest bit is at the left. Evenly at a rate, or as further arguments of ffmpeg say. Gives back
 * the file's path.
 */
export function numberedClip(file: string, rate: string, more: readonly string[] = []): string {
  const { width, height, frames } = NUMBERED_CLIP;
  const bytes = Buffer.alloc(width * height * frames);
  for (let k = 0; k < frames; k++) {
    for (let i = 0; i < width * height; i++) {
      const bit = Math.floor(((i % width) * 8) / width);
      bytes[k * width * height + i] = (k >> (7 - bit)) & 1 ? 235 : 16;
    }
  }
  const raw = ["-f", "rawvideo", "-pix_fmt", "gray", "-s", `${width}x${height}`, "-r", rate, "-i", "pipe:0"];
  ffmpeg([...raw, ...more, "-c:v", "libx264", "-pix_fmt", "yuv420p", "-crf", "8", "-g", "24", file], bytes);
  return file;
}

/** The number in one row of lightness values across such a picture. */
export function readNumber(row: ArrayLike<number>): number {
  let value = 0;
  for (let bit = 0; bit < 8; bit++)
    value = 2 * value + (itemAt(row, Math.floor(((bit + 0.5) * row.length) / 8)) > 125 ? 1 : 0);
  return value;
}

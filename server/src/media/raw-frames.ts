import type { Size } from "@humming-tide/core/picture";
import { inputFile, startFfmpeg } from "./ffmpeg.ts";

/** Which frames are wanted, and how. */
export interface RawFrameWish extends Size {
  /** Frames a second of the clip's own time, which begins with its first frame. */
  readonly rate: number;
  readonly pixels: "gray" | "rgb24";
  /** Only this part of the clip; absent for all of it. */
  readonly part?: { readonly startSeconds: number; readonly endSeconds: number };
}

/**
 * Frames of a clip at even times, decoded small, a whole frame at a time; memory stays flat. Throws
 * `ffmpeg-failed`.
 */
export async function* rawFrames(
  clip: string,
  { rate, width, height, pixels, part }: RawFrameWish,
): AsyncGenerator<Buffer> {
  const fromZero = "setpts=PTS-STARTPTS";
  // A part counts from zero again: before a first frame that is late, others would be made up.
  const trim = part ? [`trim=${part.startSeconds.toFixed(3)}:${part.endSeconds.toFixed(3)}`, fromZero] : [];
  const filters = [fromZero, ...trim, `fps=${rate}:round=up`, `scale=${width}:${height}:flags=area`];
  const { child, finished } = await startFfmpeg([
    ...inputFile(clip),
    ...["-map", "0:V:0", "-an", "-vf", filters.join(","), "-pix_fmt", pixels, "-f", "rawvideo", "pipe:1"],
  ]);
  try {
    const frameBytes = width * height * (pixels === "gray" ? 1 : 3);
    let waiting: Buffer[] = [];
    let count = 0;
    for await (const chunk of child.stdout as AsyncIterable<Buffer>) {
      waiting.push(chunk);
      count += chunk.length;
      if (count < frameBytes) continue;
      const bytes = Buffer.concat(waiting);
      const whole = count - (count % frameBytes);
      for (let at = 0; at < whole; at += frameBytes) yield bytes.subarray(at, at + frameBytes);
      waiting = [bytes.subarray(whole)];
      count -= whole;
    }
    await finished;
  } finally {
    child.kill("SIGKILL");
  }
}

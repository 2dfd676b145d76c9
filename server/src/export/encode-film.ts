import { once } from "node:events";
import { ChangeWatch, lookOfYuv420, sharesOf } from "@humming-tide/core/check";
import type { FilmPlan } from "@humming-tide/core/film";
import { tellsByItself } from "@humming-tide/core/interchange";
import type { FrameRate } from "@humming-tide/core/time";
import { FILM_SAMPLE_RATE } from "../media/decode-sound.ts";
import { inputFile, startFfmpeg } from "../media/ffmpeg.ts";
import type { ClipFrames } from "./clip-frames.ts";
import type { PictureCache } from "./picture-cache.ts";
import { renderFrames } from "./render-frames.ts";
import { MIX_CHANNELS, writeMix } from "./write-mix.ts";

const COLOURS = ["-color_primaries", "bt709", "-color_trc", "bt709", "-colorspace", "bt709", "-color_range", "tv"];

/** The encoder settings of a film, shared with the benchmark so that both are measured alike. */
export function videoEncoding(rate: FrameRate): string[] {
  const keyframes = String(Math.round((2 * rate.num) / rate.den));
  return ["-c:v", "libx264", "-preset", "veryfast", "-crf", "18", "-pix_fmt", "yuv420p", "-g", keyframes, ...COLOURS];
}

export const rawVideoInput = (plan: { size: { width: number; height: number }; rate: FrameRate }): string[] => [
  ...["-f", "rawvideo", "-pix_fmt", "yuv420p", "-video_size", `${plan.size.width}x${plan.size.height}`],
  ...["-framerate", `${plan.rate.num}/${plan.rate.den}`, ...COLOURS],
];

export interface EncodeRequest {
  readonly plan: FilmPlan;
  /** The decode of a song (media/song-intake.ts). */
  readonly flacPathOf: (songSha256: string) => string;
  readonly pictures: PictureCache;
  readonly clips: ClipFrames;
  readonly filmPath: string;
  /** Scratch file for the mix, deleted at the end. */
  readonly mixPath: string;
  readonly title: string;
  readonly signal: AbortSignal;
  readonly onFrame: (framesDone: number) => void;
}

/**
 * Draws, mixes and encodes a film to H.264 and AAC in MP4. Frames are counted, sound is counted in samples: both end together. Aborting ends the
 * encoder and throws the signal's reason. Gives the shares of the changes that a film could not tell by itself (film report). Throws `ffmpeg-failed` with the encoder's words.
 */
export async function encodeFilm(request: EncodeRequest): Promise<ReadonlyMap<number, readonly number[]>> {
  const { plan, signal } = request;
  const drawnShares = new Map<number, number[]>();
  const watch = new ChangeWatch(plan.slots, (seen) => {
    // Rounded, the report stays small: a thousandth is far below what encoding changes.
    if (!tellsByItself(plan, seen.index) && seen.looks.length > 1) {
      drawnShares.set(
        seen.index,
        sharesOf(seen).map((share) => Math.round(share * 1000) / 1000),
      );
    }
  });
  await writeMix(request);
  signal.throwIfAborted();
  const { child, finished } = await startFfmpeg([
    ...rawVideoInput(plan),
    ...["-i", "pipe:0"],
    ...["-f", "f32le", "-ar", String(FILM_SAMPLE_RATE), "-ac", String(MIX_CHANNELS), ...inputFile(request.mixPath)],
    ...["-map", "0:v", "-map", "1:a", ...videoEncoding(plan.rate), "-video_track_timescale", String(plan.rate.num)],
    ...["-c:a", "aac", "-b:a", "256k", "-metadata", `title=${request.title}`],
    ...["-movflags", "+faststart", "-f", "mp4", "-y", `file:${request.filmPath}`],
  ]);
  const stop = (): void => void child.kill("SIGKILL");
  signal.addEventListener("abort", stop);
  try {
    const ended: { error: Error | null } = { error: null };
    finished.catch((error: Error) => {
      ended.error = error;
    });
    await renderFrames(plan, request.pictures, request.clips, 0, plan.totalFrames, async (yuv, frame) => {
      signal.throwIfAborted();
      if (ended.error) throw ended.error;
      if (!child.stdin.write(yuv)) await Promise.race([once(child.stdin, "drain"), finished]);
      if (watch.wants(frame)) watch.take(frame, lookOfYuv420(yuv, plan.size.width, plan.size.height));
      request.onFrame(frame + 1);
    });
    watch.end(plan.totalFrames);
    child.stdin.end();
    await finished;
    return drawnShares;
  } finally {
    signal.removeEventListener("abort", stop);
    stop();
    signal.throwIfAborted();
  }
}

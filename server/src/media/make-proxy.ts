import type { ClipFacts } from "@humming-tide/contract";
import { pictureFilters } from "./clip-picture.ts";
import { clipTimes } from "./clip-times.ts";
import { inputFile, startFfmpeg } from "./ffmpeg.ts";

const LONGEST_SIDE = 1280;
/** A key frame at least this often, so that a jump to any place is quick. */
const KEY_FRAME_SECONDS = 0.5;
const HIGHEST_RATE = 60;

/**
 * Writes the copy of a clip that browsers play: H.264 and AAC in MP4, at most 1280 pixels a side,
 * turned the right way up. Frames are evenly spaced at the clip's (mean) rate, at most 60 a second.
 * `onProgress` hears 0 to 1. Rejects with the signal's reason where it aborts; what was written by
 * then stays for the caller to remove.
 */
export async function makeProxy(
  original: string,
  clip: ClipFacts,
  place: string,
  signal: AbortSignal,
  onProgress: (share: number) => void,
): Promise<void> {
  const { num, den } = clip.frameRate;
  const rate = num / den > HIGHEST_RATE ? String(HIGHEST_RATE) : `${num}/${den}`;
  const size = `'if(gte(iw*sar,ih),min(${LONGEST_SIDE},trunc(iw*sar/2)*2),-2)':'if(gte(iw*sar,ih),-2,min(${LONGEST_SIDE},trunc(ih/2)*2))'`;
  const { picture } = await clipTimes(original);
  const { filters, ...started } = await pictureFilters(picture, size, "yuv");
  const shown = [...filters, "setsar=1", `fps=${rate}`];
  const { child, finished } = await startFfmpeg(
    [
      ...inputFile(original),
      ...["-map", "0:V:0", "-map", "0:a:0?", "-map_metadata", "-1", "-vf", shown.join(",")],
      ...["-color_primaries", "bt709", "-color_trc", "bt709", "-colorspace", "bt709", "-color_range", "tv"],
      ...["-c:v", "libx264", "-preset", "veryfast", "-crf", "21", "-pix_fmt", "yuv420p", "-threads", "2"],
      ...["-g", String(Math.max(1, Math.round((num / den) * KEY_FRAME_SECONDS)))],
      ...["-c:a", "aac", "-b:a", "160k", "-ac", "2", "-ar", "48000", "-movflags", "+faststart"],
      ...["-progress", "pipe:1", "-y", "-f", "mp4", place],
    ],
    started,
  );
  const stop = (): void => void child.kill("SIGKILL");
  signal.addEventListener("abort", stop);
  try {
    child.stdin.end();
    for await (const chunk of child.stdout) {
      const microseconds = Number(/out_time_(?:us|ms)=(\d+)/.exec(String(chunk))?.[1]);
      if (Number.isFinite(microseconds)) onProgress(Math.min(1, microseconds / 1e6 / clip.durationSeconds));
    }
    await finished;
    signal.throwIfAborted();
  } finally {
    signal.removeEventListener("abort", stop);
    stop();
  }
}

import { once } from "node:events";
import { startFfmpeg } from "@humming-tide/server";
import { CLIP_FRAME_RATE, type DemoClip } from "./clips.ts";

/** Writes a clip as a phone would: H.264 and AAC in MP4, with the murmur of a harbour for sound. */
export async function encodeClip(clip: DemoClip, path: string): Promise<void> {
  const { child, finished } = await startFfmpeg([
    ...[
      "-f",
      "rawvideo",
      "-pix_fmt",
      "rgba",
      "-video_size",
      `${clip.width}x${clip.height}`,
      "-framerate",
      String(CLIP_FRAME_RATE),
      "-i",
      "pipe:0",
    ],
    ...[
      "-f",
      "lavfi",
      "-i",
      `anoisesrc=color=brown:amplitude=0.12:seed=${clip.fileName.length}:duration=${clip.seconds}:sample_rate=48000`,
    ],
    ...[
      "-vf",
      "scale=out_color_matrix=bt709:out_range=tv",
      "-pix_fmt",
      "yuv420p",
      "-colorspace",
      "bt709",
      "-color_primaries",
      "bt709",
      "-color_trc",
      "bt709",
    ],
    ...["-c:v", "libx264", "-preset", "veryfast", "-crf", "23", "-c:a", "aac", "-shortest", "-y", `file:${path}`],
  ]);
  try {
    for (const frame of clip.frames()) {
      if (!child.stdin.write(Buffer.from(frame))) await Promise.race([once(child.stdin, "drain"), finished]);
    }
    child.stdin.end();
    await finished;
  } finally {
    child.kill("SIGKILL");
  }
}

import { once } from "node:events";
import path from "node:path";
import { clipAt, type PictureSlot, type PictureTrack } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import type { Quality } from "@humming-tide/core/show";
import type { FrameRate } from "@humming-tide/core/time";
import { type PlayerClip, seenFrames } from "@humming-tide/core/web-player";
import { startFfmpeg } from "../../media/ffmpeg.ts";
import { ClipFrames } from "../video/clip-frames.ts";
import { h264Mp4 } from "../video/formats/index.ts";

/** A key frame so often: a page that is stepped through finds any frame at once. */
const KEY_FRAME_EVERY = "6";

export interface ClipsRequest {
  readonly track: PictureTrack;
  readonly rate: FrameRate;
  readonly originalPath: (sha256: string) => string;
  readonly quality: Quality;
  readonly folder: string;
  readonly signal: AbortSignal;
}

/**
 * Writes the clip of each slot that has one: its frames as the film shows them, one for each of the
 * film's. Throws `ffmpeg-failed`, and the signal's reason.
 */
export async function writePlayerClips(request: ClipsRequest, onDone: (share: number) => void): Promise<PlayerClip[]> {
  const slots = [...request.track.slots.entries()].filter(([, { clip }]) => clip !== null);
  const clips: PlayerClip[] = [];
  for (const [slotIndex, slot] of slots) {
    clips.push(await writeClip(request, slotIndex, slot));
    onDone(clips.length / slots.length);
  }
  return clips;
}

async function writeClip(request: ClipsRequest, slotIndex: number, slot: PictureSlot): Promise<PlayerClip> {
  const { track, rate, folder, quality, signal, originalPath } = request;
  const clip = present(slot.clip);
  const { width, height } = clip.size;
  const { startFrame, endFrame } = seenFrames(track, slotIndex);
  const file = `clips/${String(slotIndex + 1).padStart(4, "0")}.mp4`;
  const frames = new ClipFrames(originalPath);
  const { child, finished } = await startFfmpeg([
    ...["-f", "rawvideo", "-pix_fmt", "rgba", "-video_size", `${width}x${height}`],
    ...["-framerate", `${rate.num}/${rate.den}`, "-i", "pipe:0"],
    ...["-vf", "scale=out_color_matrix=bt709:out_range=tv", ...h264Mp4.picture(rate, quality)],
    ...["-g", KEY_FRAME_EVERY, "-movflags", "+faststart", "-f", "mp4", "-y", `file:${path.join(folder, file)}`],
  ]);
  try {
    const image = { picture: present(slot.picture), of: "picture", look: slot.look } as const;
    for (let frame = startFrame; frame < endFrame; frame++) {
      signal.throwIfAborted();
      const instant = clipAt(clip, slotIndex, frame);
      await frames.preload(onlyClip(track, image, instant));
      if (!child.stdin.write(present(frames.pixels(instant)).rgba))
        await Promise.race([once(child.stdin, "drain"), finished]);
    }
    child.stdin.end();
    await finished;
  } finally {
    frames.close();
    child.kill("SIGKILL");
  }
  return { slotIndex, file, width, height, startFrame, endFrame };
}

/** A frame that shows nothing but a clip. */
const onlyClip = (
  { size }: PictureTrack,
  image: { readonly picture: string; readonly of: "picture"; readonly look: PictureSlot["look"] },
  clip: ReturnType<typeof clipAt>,
): Parameters<ClipFrames["preload"]>[0] => ({
  size,
  layers: [
    {
      kind: "scene",
      ground: null,
      parts: [{ kind: "picture", image, clip, target: { x: 0, y: 0, ...size }, cell: null, alpha: 1 }],
      alpha: 1,
      bounds: null,
      mask: null,
    },
  ],
  veils: [],
});

import type { Stereo } from "@humming-tide/core/sound";
import { FILM_SAMPLE_RATE } from "./decode-sound.ts";
import { inputFile, startFfmpeg } from "./ffmpeg.ts";
import { LONGEST_SECONDS } from "./sound-bounds.ts";

const BYTES_PER_FRAME = 8;

/** The filter by which a clip's sound counts from its first picture; what is missing is silence. */
export const inStepWithPictures = (firstPictureSeconds: number): string =>
  `aresample=async=1:first_pts=0,atrim=start=${Math.max(0, firstPictureSeconds).toFixed(6)},asetpts=PTS-STARTPTS`;

/**
 * The first sound of a file, in two channels at 48 kHz, piece by piece as it is decoded; memory
 * stays flat. Of a clip's own file it counts from the second of its first picture, and what is
 * missing is silence. Throws `ffmpeg-failed`.
 */
export async function* stereoPieces(path: string, firstPictureSeconds?: number): AsyncGenerator<Stereo> {
  const { child, finished } = await startFfmpeg([
    ...inputFile(path),
    ...["-map", "0:a:0", "-vn", "-t", String(LONGEST_SECONDS)],
    ...(firstPictureSeconds === undefined ? [] : ["-af", inStepWithPictures(firstPictureSeconds)]),
    ...["-ac", "2", "-ar", String(FILM_SAMPLE_RATE)],
    ...["-f", "f32le", "pipe:1"],
  ]);
  try {
    let rest: Buffer = Buffer.alloc(0);
    for await (const chunk of child.stdout as AsyncIterable<Buffer>) {
      const bytes = rest.length ? Buffer.concat([rest, chunk]) : chunk;
      const count = Math.floor(bytes.length / BYTES_PER_FRAME);
      const [left, right] = [new Float32Array(count), new Float32Array(count)];
      for (let i = 0; i < count; i++) {
        left[i] = bytes.readFloatLE(i * BYTES_PER_FRAME);
        right[i] = bytes.readFloatLE(i * BYTES_PER_FRAME + 4);
      }
      yield [left, right];
      rest = bytes.subarray(count * BYTES_PER_FRAME);
    }
    await finished;
  } finally {
    child.kill("SIGKILL");
  }
}

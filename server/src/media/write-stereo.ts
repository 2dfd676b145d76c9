import { once } from "node:events";
import type { Stereo } from "@humming-tide/core/sound";
import { FILM_SAMPLE_RATE, FLAC_OPTIONS } from "./decode-sound.ts";
import { startFfmpeg } from "./ffmpeg.ts";

const PIECE_FRAMES = FILM_SAMPLE_RATE;

/** Samples of two channels, one after the other. */
export function interleaved([left, right]: Stereo): Float32Array {
  const both = new Float32Array(2 * left.length);
  for (let i = 0; i < left.length; i++) {
    both[2 * i] = left[i]!;
    both[2 * i + 1] = right[i]!;
  }
  return both;
}

/** Writes sound at 48 kHz as FLAC of 16 bits. Throws `ffmpeg-failed`. */
export async function encodeStereo([left, right]: Stereo, flacPath: string): Promise<void> {
  const { child, finished } = await startFfmpeg([
    ...["-f", "f32le", "-ar", String(FILM_SAMPLE_RATE), "-ac", "2", "-i", "pipe:0"],
    ...FLAC_OPTIONS,
    ...["-y", `file:${flacPath}`],
  ]);
  try {
    for (let at = 0; at < left.length; at += PIECE_FRAMES) {
      const piece = interleaved([left.subarray(at, at + PIECE_FRAMES), right.subarray(at, at + PIECE_FRAMES)]);
      if (!child.stdin.write(new Uint8Array(piece.buffer))) await Promise.race([once(child.stdin, "drain"), finished]);
    }
    child.stdin.end();
    await finished;
  } finally {
    child.kill("SIGKILL");
  }
}

import type { Stereo } from "@humming-tide/core/sound";
import { stereoPieces } from "../media/stereo-pieces.ts";

/** The first sound of a file, all of it at once, at 48 kHz. Throws `ffmpeg-failed`. */
export async function readStereo(path: string): Promise<Stereo> {
  const pieces: Stereo[] = [];
  for await (const piece of stereoPieces(path)) pieces.push(piece);
  const count = pieces.reduce((sum, [left]) => sum + left.length, 0);
  const whole: Stereo = [new Float32Array(count), new Float32Array(count)];
  let at = 0;
  for (const piece of pieces) {
    for (const channel of [0, 1] as const) whole[channel].set(piece[channel], at);
    at += piece[0].length;
  }
  return whole;
}

import { open } from "node:fs/promises";
import type { MarkerMark } from "@humming-tide/core/interchange";
import { wavCueChunks } from "@humming-tide/core/interchange";
import { inputFile, startFfmpeg } from "./ffmpeg.ts";

/** The decode that all of the program listens to (media/song-intake.ts). */
const SAMPLE_RATE = 48_000;

/**
 * Writes a song's decode as a WAV of 16 bits with cue points at the end. `to` must not be there
 * yet. Throws `ffmpeg-failed`.
 */
export async function writeMarkedWav(sound: string, markers: readonly MarkerMark[], to: string): Promise<void> {
  const { child, finished } = await startFfmpeg([
    ...inputFile(sound),
    ...["-map_metadata", "-1", "-fflags", "+bitexact", "-c:a", "pcm_s16le", "-f", "wav", `file:${to}`],
  ]);
  try {
    await finished;
  } finally {
    child.kill("SIGKILL");
  }
  const file = await open(to, "r+");
  try {
    const { size } = await file.stat();
    const end = size + (size % 2);
    const chunks = wavCueChunks(markers, SAMPLE_RATE);
    await file.write(chunks, 0, chunks.length, end);
    const riffSize = Buffer.alloc(4);
    riffSize.writeUInt32LE(end + chunks.length - 8);
    await file.write(riffSize, 0, 4, 4);
  } finally {
    await file.close();
  }
}

import { HummingTideError } from "@humming-tide/core";
import { ANALYSIS_SAMPLE_RATE, type MonoAudio } from "@humming-tide/core/music";
import { inputFile, startFfmpeg } from "./ffmpeg.ts";

const SOUND_ONLY = ["-map", "0:a:0", "-vn", "-sn", "-dn"];
/** Longer than this is not a song; half an hour of stereo takes 700 MB while it is looked at. */
const LONGEST_SECONDS = 3 * 3600;

/** The whole sound of a file in one channel. Sample 0 is the first decoded sample. Damaged files give what can be read. */
export async function decodeMono(path: string, sampleRate = ANALYSIS_SAMPLE_RATE): Promise<MonoAudio> {
  const { child, finished } = await startFfmpeg([
    ...inputFile(path),
    ...SOUND_ONLY,
    ...["-t", String(LONGEST_SECONDS), "-ac", "1", "-ar", String(sampleRate), "-f", "f32le", "pipe:1"],
  ]);
  const chunks: Buffer[] = [];
  for await (const chunk of child.stdout) chunks.push(chunk as Buffer);
  const bytes = chunks.reduce((sum, chunk) => sum + chunk.length, 0);
  await finished.catch((error: unknown) => {
    if (bytes === 0) throw error;
  });
  const samples = new Float32Array(Math.floor(bytes / 4));
  const target = new Uint8Array(samples.buffer);
  let offset = 0;
  for (const chunk of chunks) {
    target.set(chunk.subarray(0, Math.max(0, target.length - offset)), offset);
    offset += chunk.length;
  }
  if (samples.length === 0)
    throw new HummingTideError(
      "no-sound",
      "The file holds no sound that can be decoded. It may be damaged or cut short.",
    );
  return { samples, sampleRate };
}

export const FILM_SAMPLE_RATE = 48_000;

/**
 * The one decode that defines a song's time zero and samples: 48 kHz stereo FLAC. The browser plays it, the analysis listens to it and the
 * export mixes it, so they cannot disagree. Returns what ffmpeg complained about, "" where all was well.
 */
export async function decodeToFlac(path: string, flacPath: string): Promise<string> {
  const { child, finished } = await startFfmpeg([
    ...inputFile(path),
    ...SOUND_ONLY,
    ...[
      "-t",
      String(LONGEST_SECONDS),
      "-ac",
      "2",
      "-ar",
      String(FILM_SAMPLE_RATE),
      "-sample_fmt",
      "s16",
      "-map_metadata",
      "-1",
    ],
    ...["-c:a", "flac", "-compression_level", "3", "-f", "flac", "-y", `file:${flacPath}`],
  ]);
  child.stdin.end();
  return finished;
}

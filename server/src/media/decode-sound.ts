import { ANALYSIS_SAMPLE_RATE, type MonoAudio } from "@humming-tide/core/music";
import { downmixFilter } from "./downmix.ts";
import { inputFile, startFfmpeg } from "./ffmpeg.ts";
import { mediaError } from "./media-errors.ts";
import { checkSound, LONGEST_SECONDS, soundStream } from "./sound-bounds.ts";

const SOUND_ONLY = ["-map", "0:a:0", "-vn", "-sn", "-dn"];
/** An hour of sound is decoded in well under a minute. */
const DECODE_LIMIT_MS = 600_000;

/**
 * The whole sound of a file in one channel. Sample 0 is the first decoded sample. Damaged files
 * give what can be read.
 */
export async function decodeMono(
  path: string,
  { sampleRate = ANALYSIS_SAMPLE_RATE, signal }: { readonly sampleRate?: number; readonly signal?: AbortSignal } = {},
): Promise<MonoAudio> {
  const { child, finished } = await startFfmpeg(
    [
      ...inputFile(path),
      ...SOUND_ONLY,
      ...["-t", String(LONGEST_SECONDS), "-ac", "1", "-ar", String(sampleRate), "-f", "f32le", "pipe:1"],
    ],
    { limitMs: DECODE_LIMIT_MS, ...(signal ? { signal } : {}) },
  );
  const chunks: Buffer[] = [];
  for await (const chunk of child.stdout) chunks.push(chunk as Buffer);
  const bytes = chunks.reduce((sum, chunk) => sum + chunk.length, 0);
  await finished.catch((error: unknown) => {
    if (bytes === 0 || (error as { code?: string }).code !== "ffmpeg-failed") throw error;
  });
  const samples = new Float32Array(Math.floor(bytes / 4));
  const target = new Uint8Array(samples.buffer);
  let offset = 0;
  for (const chunk of chunks) {
    target.set(chunk.subarray(0, Math.max(0, target.length - offset)), offset);
    offset += chunk.length;
  }
  if (samples.length === 0) throw mediaError("sound-undecodable");
  return { samples, sampleRate };
}

export const FILM_SAMPLE_RATE = 48_000;

/** What of a decode is kept: 16 bits at 48 kHz. */
export const FLAC_OPTIONS = [
  ...["-ac", "2", "-ar", String(FILM_SAMPLE_RATE), "-sample_fmt", "s16", "-map_metadata", "-1"],
  ...["-c:a", "flac", "-compression_level", "3", "-f", "flac"],
] as const;

/**
 * The one decode that defines a sound's time zero and samples: 48 kHz stereo FLAC. The browser
 * plays it, the analysis listens to it and the export mixes it, so they cannot disagree. More
 * channels than two are mixed down after ITU-R BS.775; `filter` is applied behind that. Returns
 * what ffmpeg complained about, "" where all was well. Throws `sound-unusual`, `time-limit`,
 * `ffmpeg-failed`, and the signal's reason.
 */
export async function decodeToFlac(
  path: string,
  flacPath: string,
  { filter = null, signal }: { readonly filter?: string | null; readonly signal?: AbortSignal } = {},
): Promise<string> {
  const stream = await soundStream(path);
  if (stream) checkSound(stream);
  const filters = [downmixFilter(stream?.channel_layout ?? ""), filter].filter((one) => one !== null);
  const { child, finished } = await startFfmpeg(
    [
      ...inputFile(path),
      ...SOUND_ONLY,
      ...["-t", String(LONGEST_SECONDS)],
      ...(filters.length > 0 ? ["-af", filters.join(",")] : []),
      ...FLAC_OPTIONS,
      ...["-y", `file:${flacPath}`],
    ],
    { limitMs: DECODE_LIMIT_MS, ...(signal ? { signal } : {}) },
  );
  child.stdin.end();
  return finished;
}

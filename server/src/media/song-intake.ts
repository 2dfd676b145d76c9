import { writeFile } from "node:fs/promises";
import path from "node:path";
import { type MusicAnalysis, packPeaks } from "@humming-tide/core/music";
import { type ListenOptions, listen } from "../workers/listen.ts";
import { decodeToFlac } from "./decode-sound.ts";
import { downmixRemark } from "./downmix.ts";
import { findFfmpeg, probe } from "./ffmpeg.ts";
import { mediaError } from "./media-errors.ts";
import { LONGEST_SONG_SECONDS } from "./sound-bounds.ts";

/** Files made from each song. */
export const SONG_FILES = { sound: "sound.flac", analysis: "analysis.json", peaks: "peaks.bin" } as const;

export interface SongIntake {
  readonly analysis: MusicAnalysis;
  readonly remark: string | null;
}

/** The part of the work that the first decode is, measured on a song of three minutes. */
const DECODING_SHARE = 0.15;
/** Shorter than this there is nothing to lay pictures on. */
const SHORTEST_SECONDS = 0.5;

/**
 * Decodes a song once, listens to that decode on another thread, and writes sound, analysis and
 * waveform. A song that is damaged towards its end comes in as far as it can be read, with a
 * remark. Throws `song-damaged`, `song-too-short`, `song-too-long`, `sound-unusual`, `time-limit`,
 * `ffmpeg-missing`, and the signal's reason.
 */
export async function takeInSong(
  original: string,
  folder: string,
  { signal, onProgress }: ListenOptions,
): Promise<SongIntake> {
  await findFfmpeg();
  const sound = path.join(folder, SONG_FILES.sound);
  let complaints: string;
  try {
    complaints = await decodeToFlac(original, sound, signal ? { signal } : {});
  } catch (cause) {
    if ((cause as { code?: string }).code !== "ffmpeg-failed") throw cause;
    if (/no space left/i.test(String((cause as { cause?: Error }).cause?.message))) {
      throw Object.assign(new Error("No space left on device", { cause }), { code: "ENOSPC" });
    }
    throw mediaError("song-damaged", { why: (cause as Error).message }, { cause });
  }
  const seconds = await declaredSeconds(sound);
  if (seconds !== null && seconds > LONGEST_SONG_SECONDS)
    throw mediaError("song-too-long", {
      minutes: Math.round(seconds / 60),
      mostMinutes: LONGEST_SONG_SECONDS / 60,
    });
  const { analysis, peaks } = await listen(sound, {
    signal,
    onProgress: (share) => onProgress?.(DECODING_SHARE + (1 - DECODING_SHARE) * share),
  });
  if (analysis.durationSeconds < SHORTEST_SECONDS) {
    throw mediaError("song-too-short", {
      durationSeconds: analysis.durationSeconds,
      leastSeconds: SHORTEST_SECONDS,
    });
  }
  await writeFile(path.join(folder, SONG_FILES.analysis), JSON.stringify(analysis));
  await writeFile(path.join(folder, SONG_FILES.peaks), packPeaks(peaks));
  return { analysis, remark: await remark(original, analysis, complaints) };
}

async function remark(original: string, analysis: MusicAnalysis, complaints: string): Promise<string | null> {
  const declared = await declaredSeconds(original);
  if (declared !== null && declared - analysis.durationSeconds > 1) {
    return `The file says ${declared.toFixed(1)} s, but only ${analysis.durationSeconds.toFixed(1)} s can be read: it is cut short. The film ends there.`;
  }
  if (analysis.musicEndSeconds === 0) return "The song is silent from beginning to end.";
  if (complaints.trim()) return "The file is damaged in places; what can be read is used.";
  if (!analysis.steady) return "No steady beat was found. Pictures are spread evenly over this song.";
  return downmixRemark(original);
}

async function declaredSeconds(original: string): Promise<number | null> {
  const facts = await probe(original, ["-show_entries", "format=duration"]).catch(() => null);
  const seconds = Number((facts?.["format"] as { duration?: string } | undefined)?.duration);
  return Number.isFinite(seconds) ? seconds : null;
}

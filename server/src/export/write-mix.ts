import { closeSync, fstatSync, openSync, readSync } from "node:fs";
import { open, rm } from "node:fs/promises";
import { HummingTideError } from "@humming-tide/core";
import type { FilmPlan } from "@humming-tide/core/film";
import { type SampleSource, SoundMixer } from "@humming-tide/core/sound";
import { frameStart, frames } from "@humming-tide/core/time";
import { FILM_SAMPLE_RATE } from "../media/decode-sound.ts";
import { inputFile, startFfmpeg } from "../media/ffmpeg.ts";

export const MIX_CHANNELS = 2;
const BYTES_PER_FRAME = 2 * MIX_CHANNELS;
/** Mixed and written at a time, so that memory stays flat over an hour of film. */
const PIECE_FRAMES = FILM_SAMPLE_RATE;

export interface MixRequest {
  readonly plan: FilmPlan;
  /** The decode of a song (media/song-intake.ts). */
  readonly flacPathOf: (songSha256: string) => string;
  readonly mixPath: string;
  readonly signal: AbortSignal;
}

/**
 * The film's sound as raw floats, to the sample as long as the film. Songs are unpacked beside the mix, so that it can be read at any place.
 * Throws `song-missing` where a song cannot be read, and the signal's reason.
 */
export async function writeMix({ plan, flacPathOf, mixPath, signal }: MixRequest): Promise<void> {
  const opened: UnpackedSong[] = [];
  const file = await open(mixPath, "w");
  try {
    const sources = new Map<string, SampleSource>();
    for (const sha256 of new Set(plan.sound.pieces.map((piece) => piece.songSha256))) {
      const song = await UnpackedSong.of(flacPathOf(sha256), `${mixPath}.${sources.size}.s16`, signal);
      opened.push(song);
      sources.set(sha256, song);
    }
    const mixer = new SoundMixer(plan.sound, FILM_SAMPLE_RATE, (sha256) => sources.get(sha256)!);
    const length = Math.round(frameStart(frames(plan.totalFrames), plan.rate) * FILM_SAMPLE_RATE);
    for (let at = 0; at < length; at += PIECE_FRAMES) {
      signal.throwIfAborted();
      const [left, right] = mixer.render(at, Math.min(PIECE_FRAMES, length - at));
      const interleaved = new Float32Array(left.length * MIX_CHANNELS);
      for (let i = 0; i < left.length; i++) {
        interleaved[2 * i] = left[i]!;
        interleaved[2 * i + 1] = right[i]!;
      }
      await file.writeFile(new Uint8Array(interleaved.buffer));
    }
  } finally {
    await file.close();
    for (const song of opened) await song.remove();
  }
}

/** A song's decode as 16-bit samples in a file. */
class UnpackedSong implements SampleSource {
  readonly frameCount: number;
  readonly #path: string;
  readonly #descriptor: number;

  private constructor(path: string) {
    this.#path = path;
    this.#descriptor = openSync(path, "r");
    this.frameCount = Math.floor(fstatSync(this.#descriptor).size / BYTES_PER_FRAME);
  }

  static async of(flacPath: string, path: string, signal: AbortSignal): Promise<UnpackedSong> {
    const missing = (cause?: unknown): HummingTideError =>
      new HummingTideError(
        "song-missing",
        "The song's sound could not be read from the data folder. Bring the song in again.",
        { cause },
      );
    const { child, finished } = await startFfmpeg([
      ...inputFile(flacPath),
      ...["-f", "s16le", "-ac", String(MIX_CHANNELS), "-ar", String(FILM_SAMPLE_RATE), "-y", `file:${path}`],
    ]);
    child.stdin.end();
    const stop = (): void => void child.kill("SIGKILL");
    signal.addEventListener("abort", stop);
    try {
      await finished;
    } catch (cause) {
      await rm(path, { force: true });
      signal.throwIfAborted();
      if (/no space left/i.test((cause as Error).message)) {
        throw Object.assign(new Error("No space left on device", { cause }), { code: "ENOSPC" });
      }
      throw missing(cause);
    } finally {
      signal.removeEventListener("abort", stop);
    }
    const song = new UnpackedSong(path);
    if (song.frameCount > 0) return song;
    await song.remove();
    throw missing();
  }

  read(from: number, count: number): [Float32Array, Float32Array] {
    const [left, right] = [new Float32Array(count), new Float32Array(count)];
    const first = Math.max(0, from);
    const end = Math.min(this.frameCount, from + count);
    if (end <= first) return [left, right];
    const bytes = Buffer.alloc((end - first) * BYTES_PER_FRAME);
    readSync(this.#descriptor, bytes, 0, bytes.length, first * BYTES_PER_FRAME);
    const samples = new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2);
    for (let i = 0; i < end - first; i++) {
      left[first - from + i] = samples[2 * i]! / 32_768;
      right[first - from + i] = samples[2 * i + 1]! / 32_768;
    }
    return [left, right];
  }

  async remove(): Promise<void> {
    closeSync(this.#descriptor);
    await rm(this.#path, { force: true });
  }
}

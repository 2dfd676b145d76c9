import { closeSync, fstatSync, openSync, readSync } from "node:fs";
import { open, rm } from "node:fs/promises";
import path from "node:path";
import { setImmediate } from "node:timers/promises";
import type { HummingTideError } from "@humming-tide/core";
import type { FilmPlan } from "@humming-tide/core/film";
import { valueFor } from "@humming-tide/core/presence";
import {
  type Master,
  MasteredMix,
  MasterMeasure,
  type MasterWish,
  type SampleSource,
  SoundMixer,
} from "@humming-tide/core/sound";
import { frameStart } from "@humming-tide/core/time";
import { FILM_SAMPLE_RATE } from "../../media/decode-sound.ts";
import { inputFile, startFfmpeg } from "../../media/ffmpeg.ts";
import { interleaved } from "../../media/write-stereo.ts";
import { outputError } from "../output-errors.ts";

export const MIX_CHANNELS = 2;
const BYTES_PER_FRAME = 2 * MIX_CHANNELS;
/** Mixed and written at a time, so that memory stays flat over an hour of film. */
const PIECE_FRAMES = FILM_SAMPLE_RATE;

interface SoundRequest {
  readonly plan: FilmPlan;
  /** The decode of a sound (MediaLibrary.ensureSound). */
  readonly flacPathOf: (soundName: string) => string;
  readonly signal: AbortSignal;
}

export interface FilmMixRequest extends SoundRequest {
  readonly mixPath: string;
}

/**
 * The film's sound as raw floats, to the sample as long as the film: mixed once to measure it and
 * find its level, and once more at that level. Sounds are unpacked beside the mix, so that they can
 * be read at any place. Throws `song-missing` where a sound cannot be read, and the signal's
 * reason.
 */
export async function writeMix(request: FilmMixRequest): Promise<void> {
  const { plan, mixPath, signal } = request;
  const file = await open(mixPath, "w");
  try {
    await withMix(request, mixPath, async (mix) => {
      const wish = plan.sound.master;
      const master = wish && (await measured(mix, wish, signal));
      const mastered = master ? new MasteredMix(mix, FILM_SAMPLE_RATE, master.gainDecibels, master.ceilingDbtp) : mix;
      const length = Math.round(frameStart(plan.totalFrames, plan.rate) * FILM_SAMPLE_RATE);
      for (let at = 0; at < length; at += PIECE_FRAMES) {
        signal.throwIfAborted();
        const piece = interleaved(mastered.render(at, Math.min(PIECE_FRAMES, length - at)));
        await file.writeFile(new Uint8Array(piece.buffer));
      }
    });
  } finally {
    await file.close();
  }
}

/**
 * How loud the film's sound is before and after its master. `folder` is for what is unpacked
 * meanwhile. Throws as `writeMix`.
 */
export async function measureMix(
  request: SoundRequest & { readonly folder: string; readonly onProgress: (share: number) => void },
): Promise<Master> {
  const { plan, signal } = request;
  return withMix(request, path.join(request.folder, "mix"), (mix) =>
    measured(mix, plan.sound.master ?? AS_MIXED, signal, request.onProgress),
  );
}

/** Nothing is wished: neither a loudness nor a ceiling that is ever reached. */
const AS_MIXED: MasterWish = { targetLufs: null, ceilingDbtp: 40 };

/** Unpacks the sounds of a film beside `place`, lets `use` mix them and clears them away. */
async function withMix<T>(
  { plan, flacPathOf, signal }: SoundRequest,
  place: string,
  use: (mix: SoundMixer) => Promise<T>,
): Promise<T> {
  const opened: UnpackedSound[] = [];
  try {
    const sources = new Map<string, SampleSource>();
    for (const name of new Set(plan.sound.pieces.map((piece) => piece.soundName))) {
      const sound = await UnpackedSound.of(flacPathOf(name), `${place}.${sources.size}.s16`, signal);
      opened.push(sound);
      sources.set(name, sound);
    }
    return await use(new SoundMixer(plan.sound, FILM_SAMPLE_RATE, (name) => valueFor(sources, name)));
  } finally {
    for (const sound of opened) await sound.remove();
  }
}

async function measured(
  mix: SoundMixer,
  wish: MasterWish,
  signal: AbortSignal,
  onProgress: (share: number) => void = () => undefined,
): Promise<Master> {
  const measure = new MasterMeasure(mix, wish);
  while (!measure.done) {
    signal.throwIfAborted();
    measure.step();
    onProgress(measure.progress);
    // Others get their turn: progress, a wish to stop.
    await setImmediate();
  }
  return measure.result();
}

/** A decode as 16-bit samples in a file. */
class UnpackedSound implements SampleSource {
  readonly frameCount: number;
  readonly #path: string;
  readonly #descriptor: number;

  private constructor(path: string) {
    this.#path = path;
    this.#descriptor = openSync(path, "r");
    this.frameCount = Math.floor(fstatSync(this.#descriptor).size / BYTES_PER_FRAME);
  }

  static async of(flacPath: string, path: string, signal: AbortSignal): Promise<UnpackedSound> {
    const missing = (cause?: unknown): HummingTideError => outputError("sound-missing", {}, { cause });
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
    const sound = new UnpackedSound(path);
    if (sound.frameCount > 0) return sound;
    await sound.remove();
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

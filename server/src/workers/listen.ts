import { availableParallelism } from "node:os";
import type { MusicAnalysis, WaveformPeaks } from "@humming-tide/core/music";
import { Piscina } from "piscina";
import { decodeMono } from "../media/decode-sound.ts";
import { builtProgram } from "./built-program.ts";

export interface Heard {
  readonly analysis: MusicAnalysis;
  readonly peaks: WaveformPeaks;
}

/**
 * A thread takes a second to start and much memory while it is there: it stays this long for the
 * next song.
 */
const STAYS_MS = 15_000;

let pool: Piscina | null = null;

const threads = (): Piscina =>
  (pool ??= new Piscina({
    filename: builtProgram(new URL("./listen-task.ts", import.meta.url)),
    minThreads: 0,
    maxThreads: availableParallelism(),
    idleTimeout: STAYS_MS,
    concurrentTasksPerWorker: 1,
  }));

/**
 * Decodes a sound file and analyses it on a thread of its own, so that the server goes on
 * answering. Throws the signal's reason.
 */
export async function listen(soundPath: string, signal?: AbortSignal): Promise<Heard> {
  const audio = await decodeMono(soundPath, signal ? { signal } : {});
  try {
    return (await threads().run(audio, {
      transferList: [audio.samples.buffer as ArrayBuffer],
      ...(signal ? { signal } : {}),
    })) as Heard;
  } catch (error) {
    signal?.throwIfAborted();
    throw error;
  }
}

import { availableParallelism } from "node:os";
import { MessageChannel } from "node:worker_threads";
import { Piscina } from "piscina";
import { decodeMono } from "../media/decode-sound.ts";
import { builtProgram } from "./built-program.ts";
import type { Heard, ListenTask } from "./listen-task.ts";

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

/** The part of the work that decoding is, measured on a song of three minutes. */
const DECODING_SHARE = 0.2;

export interface ListenOptions {
  readonly signal?: AbortSignal | undefined;
  /** Hears the share of the work that is done, from 0 to 1. */
  readonly onProgress?: ((share: number) => void) | undefined;
}

/**
 * Decodes a sound file and analyses it on a thread of its own, so that the server goes on
 * answering. Throws the signal's reason.
 */
export async function listen(soundPath: string, { signal, onProgress }: ListenOptions = {}): Promise<Heard> {
  const audio = await decodeMono(soundPath, signal ? { signal } : {});
  onProgress?.(DECODING_SHARE);
  const { port1: heard, port2: progress } = new MessageChannel();
  heard.on("message", (share: number) => onProgress?.(DECODING_SHARE + (1 - DECODING_SHARE) * share));
  try {
    const task: ListenTask = { audio, progress };
    return (await threads().run(task, {
      transferList: [audio.samples.buffer as ArrayBuffer, progress],
      ...(signal ? { signal } : {}),
    })) as Heard;
  } catch (error) {
    signal?.throwIfAborted();
    throw error;
  } finally {
    heard.close();
  }
}

import { mediaUrl } from "../api.ts";
import type { MixRequest } from "./mix-worker.ts";

/** Copied at a time: a few milliseconds of the page's thread. */
const SLICE_FRAMES = 10 * 48_000;

/** Fetches and decodes sounds and hands them to the mixing worker, each once. */
export class MixSounds {
  readonly #worker: Worker;
  readonly #arriving = new Map<string, Promise<void>>();

  constructor(worker: Worker) {
    this.#worker = worker;
  }

  /** Done when the worker has the whole sound; a failure is tried again with the next call. */
  bring(name: string, context: BaseAudioContext): Promise<void> {
    const arriving = this.#arriving.get(name) ?? this.#fetch(name, context);
    this.#arriving.set(name, arriving);
    return arriving.catch((error: unknown) => {
      this.#arriving.delete(name);
      throw error;
    });
  }

  async #fetch(name: string, context: BaseAudioContext): Promise<void> {
    const response = await fetch(mediaUrl(name, "sound"));
    if (!response.ok) throw new Error(`status ${response.status}`);
    const buffer = await context.decodeAudioData(await response.arrayBuffer());
    this.#send({ kind: "sound", name, frameCount: buffer.length });
    for (let from = 0; from < buffer.length; from += SLICE_FRAMES) {
      const length = Math.min(SLICE_FRAMES, buffer.length - from);
      const [left, right] = [new Float32Array(length), new Float32Array(length)];
      buffer.copyFromChannel(left, 0, from);
      buffer.copyFromChannel(right, buffer.numberOfChannels > 1 ? 1 : 0, from);
      this.#send({ kind: "slice", name, from, channels: [left, right] }, [left.buffer, right.buffer]);
      await new Promise((resolve) => setTimeout(resolve, 0));
    }
  }

  #send(request: MixRequest, transfer: Transferable[] = []): void {
    this.#worker.postMessage(request, transfer);
  }
}

import { once } from "node:events";
import type { Worker } from "node:worker_threads";
import type { ClipProposal, FaceSight, FrameSize } from "@humming-tide/core/clip-analysis";
import { present } from "@humming-tide/core/presence";
import type { Stereo } from "@humming-tide/core/sound";
import { startWorker } from "./start-worker.ts";

export type ClipPiece =
  /** Whole frames, grey, a byte a pixel, one behind the other. */
  | { readonly kind: "frames"; readonly pixels: Uint8Array }
  | { readonly kind: "sound"; readonly sound: Stereo }
  /** All is told; the sound counts only where all of it was. */
  | { readonly kind: "end"; readonly isHeard: boolean; readonly faces: readonly FaceSight[] };

/** Null asks for the next piece. */
export type ClipAnswer = ClipProposal | null;

/**
 * Watches and listens to a clip on a thread of its own, so that the server goes on answering.
 * Decoding is quicker than watching: each piece is waited for, so that nothing piles up. The caller
 * closes it in `finally`.
 */
export class ClipWatcher {
  readonly #worker: Worker;

  /** `size` is that of the frames (core/clip-analysis, watchedSize). */
  constructor(size: FrameSize) {
    this.#worker = startWorker(new URL("./clip-watch-worker.ts", import.meta.url), size);
  }

  async addFrames(pixels: Uint8Array): Promise<void> {
    await this.#tell({ kind: "frames", pixels }, [pixels]);
  }

  async addSound(sound: Stereo): Promise<void> {
    await this.#tell({ kind: "sound", sound }, sound);
  }

  async proposal(isHeard: boolean, faces: readonly FaceSight[]): Promise<ClipProposal> {
    return present(await this.#tell({ kind: "end", isHeard, faces }, []));
  }

  async close(): Promise<void> {
    await this.#worker.terminate();
  }

  async #tell(piece: ClipPiece, given: readonly ArrayBufferView[]): Promise<ClipAnswer> {
    this.#worker.postMessage(
      piece,
      given.map(({ buffer }) => buffer as ArrayBuffer),
    );
    const [answer] = (await once(this.#worker, "message")) as [ClipAnswer];
    return answer;
  }
}

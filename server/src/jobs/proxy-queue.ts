import type { ProxyState } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { CLIP_FILES } from "../media/clip-intake.ts";
import { makeProxy } from "../media/make-proxy.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { asStorageError } from "../storage-errors.ts";
import { mediaStore } from "../store/media-store.ts";
import { proxyStore } from "../store/proxy-store.ts";

/**
 * Makes clips playable, one after another, beside everything else that the server does. The jobs are kept in the database: what was being made
 * when the server stopped is made with the next start.
 */
export class ProxyQueue {
  readonly #library: MediaLibrary;
  readonly #stopping = new AbortController();
  #running: { readonly sha256: string; progress: number } | null = null;
  #work: Promise<void> | null = null;

  constructor(library: MediaLibrary) {
    this.#library = library;
  }

  async start(): Promise<void> {
    await proxyStore.requeueInterrupted();
    this.look();
  }

  /** Looks whether something waits, for example what a command brought in while the server runs. */
  look(): void {
    if (this.#stopping.signal.aborted) return;
    this.#work ??= this.#workAll()
      .catch((error: unknown) => console.error("Making a clip playable stumbled:", error))
      .finally(() => {
        this.#work = null;
      });
  }

  async states(hashes: readonly string[]): Promise<ProxyState[]> {
    const states = await proxyStore.states(hashes);
    if (states.some(({ state }) => state === "queued")) this.look();
    return states.map((state) =>
      this.#running?.sha256 === state.sha256 && state.state === "running"
        ? { ...state, progress: this.#running.progress }
        : state,
    );
  }

  async close(): Promise<void> {
    this.#stopping.abort();
    await this.#work;
  }

  async #workAll(): Promise<void> {
    while (!this.#stopping.signal.aborted) {
      const sha256 = await proxyStore.nextQueued();
      if (!sha256) return;
      await this.#make(sha256);
    }
  }

  async #make(sha256: string): Promise<void> {
    const { store } = this.#library;
    const running = { sha256, progress: 0 };
    this.#running = running;
    try {
      await proxyStore.update(sha256, { state: "running" });
      const facts = await mediaStore.get(sha256);
      if (facts?.kind !== "clip") throw new HummingTideError("clip-unknown", "The clip is not in the data folder.");
      const place = store.derivedPath(sha256, CLIP_FILES.proxy);
      await makeProxy(store.originalPath(sha256), facts, place, this.#stopping.signal, (share) => {
        running.progress = share;
      });
      await proxyStore.update(sha256, { state: "done", error: null });
    } catch (error) {
      // Stopped with the server: it stays "running" and is taken up at the next start.
      if (this.#stopping.signal.aborted) return;
      const { message } = asStorageError(error, "the clip's playable copy could not be made") as Error;
      await proxyStore.update(sha256, { state: "failed", error: message });
    } finally {
      this.#running = null;
    }
  }
}

import { EventEmitter } from "node:events";
import path from "node:path";
import type { ProxyState } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { CLIP_FILES } from "../media/clip-intake.ts";
import { makeProxy } from "../media/make-proxy.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { asStorageError } from "../storage-errors.ts";
import { mediaStore } from "../store/media-store.ts";
import { proxyStore } from "../store/proxy-store.ts";

/** Progress is told to listeners this often. */
const TELL_EVERY_MS = 500;

/**
 * Makes clips playable, one after another, beside everything else that the server does. The jobs are kept in the database: what was being made
 * when the server stopped is made with the next start. Emits "change" with each step of a copy.
 */
export class ProxyQueue extends EventEmitter<{ change: [ProxyState] }> {
  readonly #library: MediaLibrary;
  readonly #stopping = new AbortController();
  #running: { readonly sha256: string; progress: number } | null = null;
  #work: Promise<void> | null = null;

  constructor(library: MediaLibrary) {
    super();
    this.setMaxListeners(0);
    this.#library = library;
    library.on("copyWanted", () => this.look());
  }

  async start(): Promise<void> {
    await proxyStore.requeueInterrupted();
    this.look();
  }

  /** Looks whether something waits. */
  look(): void {
    if (this.#stopping.signal.aborted) return;
    this.#work ??= this.#workAll()
      .catch((error: unknown) => console.error("Making a clip playable stumbled:", error))
      .finally(() => {
        this.#work = null;
      });
  }

  /** How far copies are. One that is missing though it was made is made again. */
  async states(hashes: readonly string[]): Promise<ProxyState[]> {
    const states = await Promise.all((await proxyStore.states(hashes)).map((state) => this.#checked(state)));
    if (states.some(({ state }) => state === "queued")) this.look();
    return states;
  }

  async close(): Promise<void> {
    this.#stopping.abort();
    await this.#work;
  }

  async #checked(known: ProxyState): Promise<ProxyState> {
    const { sha256, state } = known;
    if (this.#running?.sha256 === sha256 && state === "running") return { ...known, progress: this.#running.progress };
    const { store } = this.#library;
    if (state !== "done" || (await store.has(store.derivedPath(sha256, CLIP_FILES.proxy)))) return known;
    await proxyStore.askMissing(sha256);
    return { ...known, state: "queued", progress: 0 };
  }

  async #workAll(): Promise<void> {
    while (!this.#stopping.signal.aborted) {
      const sha256 = await proxyStore.claimNext();
      if (!sha256) return;
      await this.#make(sha256);
    }
  }

  async #make(sha256: string): Promise<void> {
    const { store } = this.#library;
    const running = { sha256, progress: 0 };
    this.#running = running;
    let toldAt = 0;
    const tell = (state: ProxyState["state"], error: string | null = null): void =>
      void this.emit("change", { sha256, state, progress: state === "done" ? 1 : running.progress, error });
    try {
      tell("running");
      const facts = await mediaStore.get(sha256);
      if (facts?.kind !== "clip") throw new HummingTideError("clip-unknown", "The clip is not in the data folder.");
      await this.#library.ensureMade(sha256);
      const onProgress = (share: number): void => {
        running.progress = share;
        if (Date.now() - toldAt < TELL_EVERY_MS) return;
        toldAt = Date.now();
        tell("running");
      };
      await store.addDerived(sha256, (folder) => {
        const place = path.join(folder, CLIP_FILES.proxy);
        return makeProxy(store.originalPath(sha256), facts, place, this.#stopping.signal, onProgress);
      });
      await proxyStore.update(sha256, { state: "done", error: null });
      tell("done");
    } catch (error) {
      if (this.#stopping.signal.aborted) {
        await proxyStore.putBack(sha256).catch(() => undefined);
        return;
      }
      const { message } = asStorageError(error, "the clip's playable copy could not be made") as Error;
      await proxyStore.update(sha256, { state: "failed", error: message });
      tell("failed", message);
    } finally {
      this.#running = null;
    }
  }
}

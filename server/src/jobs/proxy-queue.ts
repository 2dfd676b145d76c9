import { EventEmitter } from "node:events";
import path from "node:path";
import { isUnderWay, type ProxyState } from "@humming-tide/contract";
import { CLIP_FILES } from "../media/clip-intake.ts";
import { makeProxy } from "../media/make-proxy.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import { asStorageError } from "../storage-errors.ts";
import type { MediaStore } from "../store/media-store.ts";
import type { ProxyStore } from "../store/proxy-store.ts";
import { jobError } from "./job-errors.ts";
import { MOST_TRIES } from "./job-keeper.ts";
import { type JobContext, JobRunner } from "./job-runner.ts";

const ABANDONED =
  `The server stopped ${MOST_TRIES} times while this clip was made playable. It is drawn from ` +
  "its original in films; convert it to MP4 to play it here.";

const STEP = "Making the clip playable";

/**
 * Makes clips playable, one after another, beside everything else that the server does. Emits
 * "change" with each step of a copy.
 */
export class ProxyQueue extends EventEmitter<{ change: [ProxyState] }> {
  readonly #library: MediaLibrary;
  readonly #media: MediaStore;
  readonly #proxies: ProxyStore;
  readonly #runner: JobRunner<ProxyState>;

  constructor(library: MediaLibrary, media: MediaStore, proxies: ProxyStore) {
    super();
    this.setMaxListeners(0);
    this.#library = library;
    this.#media = media;
    this.#proxies = proxies;
    this.#runner = new JobRunner<ProxyState>({
      keeper: proxies.jobs,
      noun: "copy of the clip",
      limit: 1,
      load: (sha256) => proxies.get(sha256),
      firstStep: STEP,
      work: (state, context) => this.#make(state, context),
      abandonedError: ABANDONED,
      failed: (error) => {
        const { message } = asStorageError(error, "the clip's playable copy could not be made") as Error;
        return { state: "failed", step: "Failed", error: message };
      },
      cancelledStep: "Cancelled",
      onChange: (state) => {
        this.emit("change", state);
        if (!isUnderWay(state)) library.emit("copyEnded", state.sha256);
      },
    });
    library.on("copyWanted", () => this.#runner.look());
  }

  start(): Promise<void> {
    return this.#runner.start();
  }

  /** How far copies are. One that is missing though it was made is made again. */
  async states(hashes: readonly string[]): Promise<ProxyState[]> {
    const states = await Promise.all((await this.#proxies.states(hashes)).map((state) => this.#checked(state)));
    if (states.some(({ state }) => state === "queued")) this.#runner.look();
    return states;
  }

  close(): Promise<void> {
    return this.#runner.close();
  }

  async #checked(known: ProxyState): Promise<ProxyState> {
    const { sha256 } = known;
    const running = this.#runner.running(sha256);
    if (running) return running;
    const { store } = this.#library;
    if (known.state !== "done" || (await store.has(store.derivedPath(sha256, CLIP_FILES.proxy)))) return known;
    await this.#proxies.askMissing(sha256);
    return { ...known, state: "queued", progress: 0 };
  }

  async #make({ sha256 }: ProxyState, { signal, tell }: JobContext): Promise<string> {
    const { store } = this.#library;
    const facts = await this.#media.get(sha256);
    if (facts?.kind !== "clip") throw jobError("clip-unknown");
    await this.#library.ensureMade(sha256);
    await store.addDerived(sha256, (folder) => {
      const place = path.join(folder, CLIP_FILES.proxy);
      return makeProxy(store.originalPath(sha256), facts, place, signal, (share) => tell(STEP, share));
    });
    return "Done";
  }
}

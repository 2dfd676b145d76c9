import { EventEmitter } from "node:events";
import { access } from "node:fs/promises";
import path from "node:path";
import { setTimeout } from "node:timers/promises";
import type { Delivery, DeliveryWish, DiscWish, Services, VideoWish } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { chaptersOf } from "@humming-tide/core/film";
import { isVideo } from "@humming-tide/core/show";
import pLimit from "p-limit";
import type { ExportQueue } from "../jobs/export-queue.ts";
import { secondsLeft } from "../jobs/seconds-left.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import { asStorageError } from "../storage-errors.ts";
import { deliveryStore, type StoredDelivery } from "../store/delivery-store.ts";
import { exportStore } from "../store/export-store.ts";
import { preferenceStore } from "../store/preference-store.ts";
import { writeDiscImage } from "./disc-image.ts";
import { bytesOnDisc, DISC_BYTES, discFor } from "./disc-size.ts";
import type { DiscWriter } from "./disc-writer.ts";
import { uploadFilm } from "./upload-film.ts";
import type { VideoSite } from "./video-site.ts";

/** The services that films go out by; where none is set up, films do not go out. */
export interface OutsideServices {
  readonly address: string;
  readonly video: VideoSite;
  readonly disc: DiscWriter;
}

const ASK_EVERY_MS = 400;
const SAVE_EVERY_MS = 1000;
/** Of a disc: the folder, writing, verifying. */
const IMAGE_SHARE = 0.1;
const WRITE_SHARE = 0.6;

interface Running {
  readonly stopping: AbortController;
  delivery: Delivery;
  savedAt: number;
  startedAt: number;
  /** Where this run of it began. */
  readonly from: number;
}

/**
 * Films on their way to a video site and onto discs, one of each kind at a time, kept in the database: an upload goes on with the next start where the site has got to; a disc that was being written is lost, and is said to be. Emits "change" with the delivery.
 */
export class DeliveryQueue extends EventEmitter<{ change: [Delivery] }> {
  readonly #exports: ExportQueue;
  readonly #planner: FilmPlanner;
  readonly #services: OutsideServices | null;
  readonly #lanes = { video: pLimit(1), disc: pLimit(1) };
  readonly #running = new Map<string, Running>();
  #closed = false;

  constructor(exports: ExportQueue, planner: FilmPlanner, services: OutsideServices | null) {
    super();
    this.setMaxListeners(0);
    this.#exports = exports;
    this.#planner = planner;
    this.#services = services;
  }

  /** Takes up what was under way. */
  async start(): Promise<void> {
    for (const { delivery, serviceId } of await deliveryStore.unfinished()) {
      if (delivery.wish.kind === "disc" && serviceId !== null) {
        const error =
          "The server stopped while the disc was being written: it is spoilt. Put in a new one and burn again.";
        await this.#change(delivery, { state: "failed", step: "Failed", error });
      } else this.#queue(delivery);
    }
  }

  /** What can be done at the moment. Never throws: a service that does not answer is said to. */
  async services(): Promise<Services> {
    if (!this.#services) return { address: null, videoAccount: null, drive: null };
    const { address, disc } = this.#services;
    const [session, drive] = await Promise.all([preferenceStore.videoSession(), disc.drive().catch(() => null)]);
    return { address, videoAccount: session?.account ?? null, drive };
  }

  /** Throws `no-services`, `sign-in-refused`, `service-unreachable`. */
  async signIn(name: string, password: string): Promise<void> {
    await preferenceStore.setVideoSession(await this.#outside().video.signIn(name, password));
  }

  async signOut(): Promise<void> {
    await preferenceStore.setVideoSession(null);
  }

  /** Throws `no-services`, `export-unknown`, and `no-film` where the export is not a finished film of this show. */
  async add(showId: string, wish: DeliveryWish): Promise<Delivery> {
    if (wish.kind === "video" || !wish.onlyFolder) this.#outside();
    const job = await exportStore.get(wish.exportId);
    const isThere = await access(this.#exports.filmPath(job)).then(
      () => true,
      () => false,
    );
    if (job.showId !== showId || job.state !== "done" || !isVideo(job.output.container) || !isThere)
      throw new HummingTideError("no-film", "This film is not finished, or not there any more. Export it again.");
    const { delivery } = await deliveryStore.create(showId, wish);
    this.emit("change", delivery);
    this.#queue(delivery);
    return delivery;
  }

  async listForShow(showId: string): Promise<Delivery[]> {
    return (await deliveryStore.listForShow(showId)).map(({ delivery }) => this.#newest(delivery));
  }

  #newest(delivery: Delivery): Delivery {
    return this.#running.get(delivery.id)?.delivery ?? delivery;
  }

  /** What has ended stays as it is. */
  async cancel(id: string): Promise<void> {
    const running = this.#running.get(id);
    if (running) {
      running.stopping.abort(new HummingTideError("cancelled", "Stopped."));
      return;
    }
    const { delivery } = await deliveryStore.get(id);
    if (delivery.state === "waiting" || delivery.state === "stopped")
      await this.#change(delivery, { state: "cancelled", step: "Stopped", error: null });
  }

  /** Goes on with what stands still or has failed, from where it is. */
  async resume(id: string): Promise<void> {
    const { delivery, serviceId } = await deliveryStore.get(id);
    if (delivery.state !== "stopped" && delivery.state !== "failed") return;
    // A film that the site could not process, and a spoilt disc, begin again.
    const isNew = delivery.state === "failed" && serviceId !== null;
    if (isNew) await deliveryStore.update(id, { serviceId: null });
    const progress = isNew ? 0 : delivery.progress;
    this.#queue(await this.#change(delivery, { state: "waiting", step: "Waiting", error: null, progress }));
  }

  /** Stops without marking what runs as cancelled: the next start takes it up. */
  async close(): Promise<void> {
    this.#closed = true;
    for (const { stopping } of this.#running.values())
      stopping.abort(new HummingTideError("closed", "The server stops."));
    await Promise.all([this.#lanes.video(() => undefined), this.#lanes.disc(() => undefined)]);
  }

  #queue(delivery: Delivery): void {
    this.#lanes[delivery.wish.kind](async () => {
      if (!this.#closed) await this.#run(delivery.id);
    }).catch((error: unknown) => console.error("A delivery stumbled:", error));
  }

  async #run(id: string): Promise<void> {
    const stored = await deliveryStore.get(id);
    if (stored.delivery.state !== "waiting" && stored.delivery.state !== "running") return;
    const { progress: from } = stored.delivery;
    const running: Running = {
      ...{ stopping: new AbortController(), delivery: stored.delivery, savedAt: 0, startedAt: Date.now(), from },
    };
    this.#running.set(id, running);
    try {
      running.delivery = await this.#change(stored.delivery, { state: "running", step: "Beginning" });
      const { wish } = stored.delivery;
      if (wish.kind === "video") await this.#publish(running, wish, stored);
      else await this.#burn(running, wish);
    } catch (error) {
      await this.#endBadly(running, error);
    } finally {
      this.#running.delete(id);
    }
  }

  async #endBadly({ delivery }: Running, cause: unknown): Promise<void> {
    const error = asStorageError(cause, "the film did not go out");
    const { code, message } =
      error instanceof HummingTideError
        ? error
        : { code: "internal", message: `It failed: ${(error as Error).message}. Try again.` };
    if (code === "closed") return;
    if (code === "cancelled") await this.#change(delivery, { state: "cancelled", step: "Stopped" });
    // Nothing is lost: it goes on when the person says so.
    else if (code === "signed-out" || code === "service-unreachable") {
      if (code === "signed-out") await preferenceStore.setVideoSession(null);
      await this.#change(delivery, { state: "stopped", step: "Standing still", error: message });
    } else await this.#change(delivery, { state: "failed", step: "Failed", error: message });
  }

  async #publish(running: Running, wish: VideoWish, { serviceId }: StoredDelivery): Promise<void> {
    const { site, token } = await this.#signedIn();
    const job = await exportStore.get(wish.exportId);
    const { title, description, visibility } = wish;
    const video = await uploadFilm({
      ...{ site, token, id: serviceId, facts: { title, description, visibility } },
      filmPath: this.#exports.filmPath(job),
      signal: running.stopping.signal,
      onBegun: (id) => deliveryStore.update(running.delivery.id, { serviceId: id }),
      onProgress: (step, progress) => this.#progress(running, step, progress),
    });
    await this.#change(running.delivery, {
      state: "done",
      step: "Published",
      progress: 1,
      place: video.address,
      error: null,
    });
  }

  async #signedIn(): Promise<{ readonly site: VideoSite; readonly token: string }> {
    const { video: site } = this.#outside();
    const session = await preferenceStore.videoSession();
    if (!session)
      throw new HummingTideError("signed-out", "Sign in at the video site; the upload goes on where it is.");
    return { site, token: session.token };
  }

  async #burn(running: Running, wish: DiscWish): Promise<void> {
    const { signal } = running.stopping;
    const job = await exportStore.get(wish.exportId);
    const document = await this.#exports.documentOf(job.id);
    const plan = await this.#planner.plan(document, job.output);
    const folder = path.join(path.dirname(this.#exports.filmPath(job)), `disc-${running.delivery.id}`);
    const { firstPlay, label, onlyFolder } = wish;
    const sizes = await writeDiscImage({
      ...{ folder, firstPlay, signal, title: document.title, rate: plan.rate, totalFrames: plan.totalFrames },
      filmPath: this.#exports.filmPath(job),
      subtitle: [document.event, document.date].filter(Boolean).join(", "),
      chapters: chaptersOf(document, plan),
      onProgress: (share) => this.#progress(running, "Making the menu", (onlyFolder ? 1 : IMAGE_SHARE) * share),
    });
    const bytes = bytesOnDisc(sizes);
    const kind = discFor(bytes);
    const remark = kind === "double" ? TWO_LAYERS : null;
    running.delivery = await this.#change(running.delivery, { remark, place: folder });
    if (kind === null)
      throw new HummingTideError(
        "disc-too-small",
        `The film takes ${gigabytes(bytes)}, and the largest disc has ${gigabytes(DISC_BYTES.double)}. Export it smaller, or in two parts.`,
      );
    if (onlyFolder) {
      await this.#change(running.delivery, { state: "done", step: "The folder is made", progress: 1 });
      return;
    }
    const { disc } = this.#outside();
    const { medium } = await disc.drive();
    if (medium?.state !== "blank" || bytes > medium.bytes)
      throw new HummingTideError(
        "disc-wanted",
        `${medium === null ? "There is no disc in the drive" : medium.state === "blank" ? `The disc in the drive holds ${gigabytes(medium.bytes)}, and ${gigabytes(bytes)} are wanted` : "The disc in the drive is not blank"}. Put in a blank one with ${kind === "single" ? "4.7 GB" : "two layers, 8.5 GB"}, then try again.`,
      );
    const begun = await disc.begin(folder, label);
    await deliveryStore.update(running.delivery.id, { serviceId: begun.id });
    await this.#watchBurn(running, disc, begun.id);
    await this.#change(running.delivery, { state: "done", step: "Written and verified", progress: 1 });
  }

  async #watchBurn(running: Running, disc: DiscWriter, burnId: string): Promise<void> {
    const { signal } = running.stopping;
    try {
      for (;;) {
        const { state, progress, error } = await disc.burn(burnId);
        if (state === "done") return;
        if (state === "failed" || state === "cancelled")
          throw new HummingTideError("burn-failed", error ?? "The disc was not written to its end. It is spoilt.");
        const writes = state === "writing";
        const share = writes
          ? IMAGE_SHARE + WRITE_SHARE * progress
          : IMAGE_SHARE + WRITE_SHARE + (1 - IMAGE_SHARE - WRITE_SHARE) * progress;
        this.#progress(running, writes ? "Writing the disc" : "Reading the disc again", share);
        await setTimeout(ASK_EVERY_MS, undefined, { signal });
      }
    } catch (error) {
      if (!signal.aborted) throw error;
      await disc.cancel(burnId).catch(() => undefined);
      throw signal.reason as Error;
    }
  }

  #outside(): OutsideServices {
    if (this.#services) return this.#services;
    throw new HummingTideError(
      "no-services",
      "No services for publishing and discs are set up. Start the program with --services ADDRESS; those that ship with it come with npm run demo.",
    );
  }

  #progress(running: Running, step: string, progress: number): void {
    const left = secondsLeft(progress, (Date.now() - running.startedAt) / 1000, running.from);
    running.delivery = { ...running.delivery, step, progress, secondsLeft: left };
    this.emit("change", running.delivery);
    if (Date.now() - running.savedAt < SAVE_EVERY_MS) return;
    running.savedAt = Date.now();
    void deliveryStore.update(running.delivery.id, { step, progress }).catch(() => undefined);
  }

  async #change(delivery: Delivery, change: Partial<Delivery>): Promise<Delivery> {
    await deliveryStore.update(delivery.id, change);
    const changed = { ...delivery, ...change, secondsLeft: null };
    this.emit("change", changed);
    return changed;
  }
}

/** Common practice. */
const TWO_LAYERS =
  "It asks for a disc with two layers: not every drive writes them, and some players stop for a moment where the layers meet, or do not read them at all. Below 4.7 GB an ordinary disc would do.";

const gigabytes = (bytes: number): string => `${(bytes / 1e9).toFixed(2)} GB`;

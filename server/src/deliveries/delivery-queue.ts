import { EventEmitter } from "node:events";
import { access } from "node:fs/promises";
import type { Delivery, DeliveryWish, VideoWish } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { isVideo } from "@humming-tide/core/show";
import type { ExportQueue } from "../jobs/export-queue.ts";
import { type JobEnd, MOST_TRIES } from "../jobs/job-keeper.ts";
import { type JobContext, JobRunner } from "../jobs/job-runner.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import { serviceError } from "../services/service-errors.ts";
import { asStorageError } from "../storage-errors.ts";
import type { DeliveryStore, StoredDelivery } from "../store/delivery-store.ts";
import { burnDisc } from "./burn-disc.ts";
import type { OutsideAccounts } from "./outside-accounts.ts";
import { uploadFilm } from "./upload-film.ts";

const ABANDONED =
  `The server stopped ${MOST_TRIES} times while this was under way, so it is not begun again by ` +
  "itself. Look at the machine first, then try again.";

/**
 * After these a delivery is paused, not failed: nothing is lost, and it goes on when the person
 * says so.
 */
const PAUSES = new Set(["signed-out", "service-unreachable"]);

export interface DeliverySources {
  readonly exports: ExportQueue;
  readonly planner: FilmPlanner;
  readonly deliveries: DeliveryStore;
  readonly accounts: OutsideAccounts;
}

/**
 * Films on their way to a video site and onto discs, one of each kind at a time. An upload goes on
 * where the site has got to; a disc that was being written when the server stopped is spoilt, and
 * is said to be. Emits "change" with the delivery.
 */
export class DeliveryQueue extends EventEmitter<{ change: [Delivery] }> {
  readonly #exports: ExportQueue;
  readonly #planner: FilmPlanner;
  readonly #deliveries: DeliveryStore;
  readonly #accounts: OutsideAccounts;
  readonly #runners: Readonly<Record<DeliveryWish["kind"], JobRunner<Delivery>>>;

  constructor({ exports, planner, deliveries, accounts }: DeliverySources) {
    super();
    this.setMaxListeners(0);
    this.#exports = exports;
    this.#planner = planner;
    this.#deliveries = deliveries;
    this.#accounts = accounts;
    this.#runners = { video: this.#runnerOf("video"), disc: this.#runnerOf("disc") };
  }

  #runnerOf(kind: DeliveryWish["kind"]): JobRunner<Delivery> {
    return new JobRunner<Delivery>({
      keeper: this.#deliveries.jobs[kind],
      noun: "delivery",
      limit: 1,
      load: async (id) => (await this.#deliveries.get(id)).delivery,
      firstStep: "Beginning",
      work: (delivery, context) => this.#deliver(delivery, context),
      abandonedError: ABANDONED,
      failed: (error) => this.#endOf(error),
      cancelledStep: "Stopped",
      onChange: (delivery) => this.emit("change", delivery),
    });
  }

  /** Takes up what was under way. */
  async start(): Promise<void> {
    for (const runner of Object.values(this.#runners)) await runner.start();
  }

  /**
   * Throws `no-services`, `export-unknown`, and `no-film` where the export is not a finished film
   * of this show.
   */
  async add(showId: string, wish: DeliveryWish): Promise<Delivery> {
    // Throws where there is no way out.
    if (wish.kind === "video" || !wish.onlyFolder) void this.#accounts.services;
    const job = await this.#exports.get(wish.exportId);
    const isThere = await access(this.#exports.filmPath(job)).then(
      () => true,
      () => false,
    );
    if (job.showId !== showId || job.state !== "done" || !isVideo(job.output.container) || !isThere)
      throw serviceError("no-film");
    const { delivery } = await this.#deliveries.create(showId, wish);
    this.emit("change", delivery);
    this.#runners[wish.kind].look();
    return delivery;
  }

  async listForShow(showId: string): Promise<Delivery[]> {
    const stored = await this.#deliveries.listForShow(showId);
    return stored.map(({ delivery }) => this.#runners[delivery.wish.kind].running(delivery.id) ?? delivery);
  }

  /** What has ended stays as it is. Throws `delivery-unknown`. */
  async cancel(id: string): Promise<void> {
    await (await this.#runnerFor(id)).cancel(id);
  }

  /** Goes on with what is paused or has failed, from where it is. Throws `delivery-unknown`. */
  async resume(id: string): Promise<void> {
    const { delivery, serviceId } = await this.#deliveries.get(id);
    // A film that the site could not process, and a spoilt disc, begin again.
    if (delivery.state === "failed" && serviceId !== null)
      await this.#deliveries.update(id, { serviceId: null, progress: 0 });
    await (await this.#runnerFor(id)).resume(id);
  }

  /** Stops without marking what runs as cancelled: the next start takes it up. */
  async close(): Promise<void> {
    await Promise.all(Object.values(this.#runners).map((runner) => runner.close()));
  }

  async #runnerFor(id: string): Promise<JobRunner<Delivery>> {
    return this.#runners[(await this.#deliveries.get(id)).delivery.wish.kind];
  }

  async #deliver({ id }: Delivery, context: JobContext): Promise<string> {
    const stored = await this.#deliveries.get(id);
    const { wish } = stored.delivery;
    if (wish.kind === "video") return this.#publish(stored, wish, context);
    const sources = {
      exports: this.#exports,
      planner: this.#planner,
      deliveries: this.#deliveries,
      writer: () => this.#accounts.services.disc,
    };
    return burnDisc(sources, stored, wish, context);
  }

  async #publish(
    { delivery: { id }, serviceId }: StoredDelivery,
    { exportId, title, description, visibility }: VideoWish,
    { signal, tell }: JobContext,
  ): Promise<string> {
    const { site, token } = await this.#accounts.signedIn();
    const job = await this.#exports.get(exportId);
    const video = await uploadFilm({
      ...{ site, token, id: serviceId, facts: { title, description, visibility }, signal },
      filmPath: this.#exports.filmPath(job),
      onBegun: (begunId) => this.#deliveries.update(id, { serviceId: begunId }),
      onProgress: tell,
    });
    await this.#deliveries.update(id, { place: video.address });
    return "Published";
  }

  async #endOf(cause: unknown): Promise<JobEnd> {
    const error = asStorageError(cause, "the film did not go out");
    const { code, message } =
      error instanceof HummingTideError
        ? error
        : { code: "internal", message: `It failed: ${(error as Error).message}. Try again.` };
    if (code === "signed-out") await this.#accounts.signOut();
    return PAUSES.has(code)
      ? { state: "paused", step: "Paused", error: message }
      : { state: "failed", step: "Failed", error: message };
  }
}

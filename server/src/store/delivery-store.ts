import { randomUUID } from "node:crypto";
import { type Delivery, type DeliveryWish, deliverySchema } from "@humming-tide/contract";
import type { StudioDatabase } from "./database.ts";
import type { ExportStore } from "./export-store.ts";
import { jobStatusOf } from "./job-status.ts";
import { JobTable } from "./job-table.ts";
import { storeError } from "./store-errors.ts";
import type { DeliveryRow } from "./tables/film-tables.ts";

export interface StoredDelivery {
  readonly delivery: Delivery;
  readonly serviceId: string | null;
}

type Change = Partial<Pick<Delivery, "remark" | "place" | "progress">> & { readonly serviceId?: string | null };

/** Films on their way out, kept so that they go on after the server has stopped. */
export class DeliveryStore {
  /** Each kind of way out has a queue of its own. */
  readonly jobs: Readonly<Record<DeliveryWish["kind"], JobTable>>;
  readonly #database: StudioDatabase;
  readonly #exports: ExportStore;

  constructor(database: StudioDatabase, exports: ExportStore) {
    this.#database = database;
    this.#exports = exports;
    const jobsOf = (kind: DeliveryWish["kind"]): JobTable =>
      new JobTable(database.sequelize, "deliveries", `json_extract(wish, '$.kind') = '${kind}'`);
    this.jobs = { video: jobsOf("video"), disc: jobsOf("disc") };
  }

  async create(showId: string, wish: DeliveryWish): Promise<StoredDelivery> {
    const row = await this.#database.deliveries.create({
      ...{ id: randomUUID(), showId, exportId: wish.exportId, wish: JSON.stringify(wish), state: "queued" },
      ...{ error: null, remark: null, place: null, serviceId: null },
    });
    return this.#stored(row);
  }

  /** Throws `delivery-unknown`. */
  async get(id: string): Promise<StoredDelivery> {
    const row = await this.#database.deliveries.findByPk(id);
    if (!row) throw storeError("delivery-unknown");
    return this.#stored(row);
  }

  /** The newest first. */
  async listForShow(showId: string): Promise<StoredDelivery[]> {
    const rows = await this.#database.deliveries.findAll({ where: { showId }, order: [["createdAt", "DESC"]] });
    return Promise.all(rows.map((row) => this.#stored(row)));
  }

  async update(id: string, change: Change): Promise<void> {
    await this.#database.deliveries.update(change, { where: { id } });
  }

  async #stored(row: DeliveryRow): Promise<StoredDelivery> {
    const job = await this.#exports.get(row.exportId);
    const delivery = deliverySchema.parse({
      ...jobStatusOf(row),
      id: row.id,
      showId: row.showId,
      wish: JSON.parse(row.wish) as unknown,
      fileName: job.fileName,
      remark: row.remark,
      place: row.place,
      createdAt: row.createdAt.toISOString(),
    });
    return { delivery, serviceId: row.serviceId };
  }
}

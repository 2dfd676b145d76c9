import { randomUUID } from "node:crypto";
import { type Delivery, type DeliveryWish, deliverySchema } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { DeliveryRow } from "./database.ts";
import { exportStore } from "./export-store.ts";

export interface StoredDelivery {
  readonly delivery: Delivery;
  readonly serviceId: string | null;
}

type Change = Partial<Pick<Delivery, "state" | "step" | "progress" | "error" | "remark" | "place">> & {
  readonly serviceId?: string | null;
};

/** Films on their way out, kept so that they go on after the server has stopped. */
export const deliveryStore = {
  async create(showId: string, wish: DeliveryWish): Promise<StoredDelivery> {
    const row = await DeliveryRow.create({
      ...{ id: randomUUID(), showId, exportId: wish.exportId, wish: JSON.stringify(wish), state: "waiting" },
      ...{ step: "Waiting", progress: 0, error: null, remark: null, place: null, serviceId: null },
    });
    return toStored(row);
  },

  /** Throws `delivery-unknown`. */
  async get(id: string): Promise<StoredDelivery> {
    const row = await DeliveryRow.findByPk(id);
    if (!row) throw new HummingTideError("delivery-unknown", "There is no delivery at this address.");
    return toStored(row);
  },

  /** The newest first. */
  async listForShow(showId: string): Promise<StoredDelivery[]> {
    const rows = await DeliveryRow.findAll({ where: { showId }, order: [["createdAt", "DESC"]] });
    return Promise.all(rows.map(toStored));
  },

  /** What was under way when the server stopped, or waits, the oldest first. */
  async unfinished(): Promise<StoredDelivery[]> {
    const rows = await DeliveryRow.findAll({ where: { state: ["waiting", "running"] }, order: [["createdAt", "ASC"]] });
    return Promise.all(rows.map(toStored));
  },

  async update(id: string, change: Change): Promise<void> {
    await DeliveryRow.update(change, { where: { id } });
  },
};

async function toStored(row: DeliveryRow): Promise<StoredDelivery> {
  const job = await exportStore.get(row.exportId);
  const delivery = deliverySchema.parse({
    id: row.id,
    showId: row.showId,
    wish: JSON.parse(row.wish) as unknown,
    fileName: job.fileName,
    state: row.state,
    step: row.step,
    progress: row.progress,
    secondsLeft: null,
    error: row.error,
    remark: row.remark,
    place: row.place,
    createdAt: row.createdAt.toISOString(),
  });
  return { delivery, serviceId: row.serviceId };
}

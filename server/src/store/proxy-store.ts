import type { ProxyState } from "@humming-tide/contract";
import { ProxyRow } from "./database.ts";

/** The jobs that make clips playable, kept so that they survive the server. Progress is the queue's own knowledge. */
export const proxyStore = {
  /** Asks for a clip's proxy; one that failed or is there is asked for again only with `again`. */
  async ask(sha256: string, { again }: { readonly again: boolean }): Promise<void> {
    const [row, created] = await ProxyRow.findOrCreate({
      where: { sha256 },
      defaults: { sha256, state: "queued", error: null },
    });
    if (!created && again) await row.update({ state: "queued", error: null });
  },

  async states(hashes: readonly string[]): Promise<ProxyState[]> {
    if (hashes.length === 0) return [];
    const rows = await ProxyRow.findAll({ where: { sha256: [...hashes] } });
    return rows.map(({ sha256, state, error }) => ({
      sha256,
      state: state as ProxyState["state"],
      progress: state === "done" ? 1 : 0,
      error,
    }));
  },

  async nextQueued(): Promise<string | null> {
    const row = await ProxyRow.findOne({ where: { state: "queued" }, order: [["createdAt", "ASC"]] });
    return row?.sha256 ?? null;
  },

  /** What was being made when the server stopped is made again. */
  async requeueInterrupted(): Promise<void> {
    await ProxyRow.update({ state: "queued" }, { where: { state: "running" } });
  },

  async update(sha256: string, change: { state: ProxyState["state"]; error?: string | null }): Promise<void> {
    await ProxyRow.update(change, { where: { sha256 } });
  },
};

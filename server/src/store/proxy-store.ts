import type { ProxyState } from "@humming-tide/contract";
import { ProxyRow } from "./database.ts";

/** A copy whose making brings the server down is begun this often. */
const MOST_TRIES = 3;

/** The jobs that make clips playable, kept so that they survive the server. Progress is the queue's own knowledge. */
export const proxyStore = {
  /** Asks for a clip's proxy; one that failed or is there is asked for again only with `again`. */
  async ask(sha256: string, { again }: { readonly again: boolean }): Promise<void> {
    const [row, created] = await ProxyRow.findOrCreate({
      where: { sha256 },
      defaults: { sha256, state: "queued", error: null, tries: 0 },
    });
    if (!created && again) await row.update({ state: "queued", error: null, tries: 0 });
  },

  /** Asks for one that was there and is missing now, or was never asked for. */
  async askMissing(sha256: string): Promise<void> {
    await proxyStore.ask(sha256, { again: false });
    await ProxyRow.update({ state: "queued", error: null, tries: 0 }, { where: { sha256, state: "done" } });
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

  /**
   * Takes the clip that has waited longest, marks it as running and counts the try; null where none
   * waits. Whoever asks at the same time gets another clip.
   */
  async claimNext(): Promise<string | null> {
    for (;;) {
      const next = await ProxyRow.findOne({ where: { state: "queued" }, order: [["createdAt", "ASC"]] });
      if (!next) return null;
      const { sha256, tries } = next;
      const [claimed] = await ProxyRow.update(
        { state: "running", tries: tries + 1 },
        { where: { sha256, state: "queued" } },
      );
      if (claimed === 1) return sha256;
    }
  },

  /**
   * What was being made when the server was killed is made again, unless making it may be what
   * brings the server down.
   */
  async requeueInterrupted(): Promise<void> {
    for (const row of await ProxyRow.findAll({ where: { state: "running" } })) {
      const isLast = row.tries >= MOST_TRIES;
      const error = isLast
        ? `The server stopped ${MOST_TRIES} times while this clip was made playable. It is drawn from ` +
          "its original in films; convert it to MP4 to play it here."
        : null;
      await row.update({ state: isLast ? "failed" : "queued", error });
    }
  },

  /** A stop of the server that is meant does not count as a try. */
  async putBack(sha256: string): Promise<void> {
    await ProxyRow.update({ state: "queued", tries: 0 }, { where: { sha256 } });
  },

  async update(sha256: string, change: { state: ProxyState["state"]; error?: string | null }): Promise<void> {
    await ProxyRow.update(change, { where: { sha256 } });
  },
};

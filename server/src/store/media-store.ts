import { type MediaFacts, mediaFactsSchema } from "@humming-tide/contract";
import { asStorageError } from "../storage-errors.ts";
import { MediaRow } from "./database.ts";

/** Facts of media, measured once per content. */
export const mediaStore = {
  async get(sha256: string): Promise<MediaFacts | null> {
    const row = await MediaRow.findByPk(sha256);
    return row ? mediaFactsSchema.parse(JSON.parse(row.facts)) : null;
  },

  async getMany(hashes: readonly string[]): Promise<Map<string, MediaFacts>> {
    const rows = await MediaRow.findAll({ where: { sha256: [...new Set(hashes)] } });
    return new Map(rows.map((row) => [row.sha256, mediaFactsSchema.parse(JSON.parse(row.facts))]));
  },

  async put(facts: MediaFacts): Promise<void> {
    try {
      await MediaRow.upsert({ sha256: facts.sha256, facts: JSON.stringify(facts) });
    } catch (error) {
      throw asStorageError(error, "the file's facts could not be saved");
    }
  },
};

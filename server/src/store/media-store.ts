import { type MediaFacts, mediaFactsSchema } from "@humming-tide/contract";
import { asStorageError } from "../storage-errors.ts";
import type { StudioDatabase } from "./database.ts";

/** Facts of media, measured once per content. */
export class MediaStore {
  readonly #database: StudioDatabase;

  constructor(database: StudioDatabase) {
    this.#database = database;
  }

  async get(sha256: string): Promise<MediaFacts | null> {
    const row = await this.#database.media.findByPk(sha256);
    return row ? mediaFactsSchema.parse(JSON.parse(row.facts)) : null;
  }

  async getMany(hashes: readonly string[]): Promise<Map<string, MediaFacts>> {
    const rows = await this.#database.media.findAll({ where: { sha256: [...new Set(hashes)] } });
    return new Map(rows.map((row) => [row.sha256, mediaFactsSchema.parse(JSON.parse(row.facts))]));
  }

  async put(facts: MediaFacts): Promise<void> {
    try {
      await this.#database.media.upsert({ sha256: facts.sha256, facts: JSON.stringify(facts) });
    } catch (error) {
      throw asStorageError(error, "the file's facts could not be saved");
    }
  }
}

import { randomUUID } from "node:crypto";
import { MOST_VARIANTS, type Variant } from "@humming-tide/contract";
import pLimit from "p-limit";
import { asStorageError } from "../storage-errors.ts";
import type { StudioDatabase } from "./database.ts";
import { storeError } from "./store-errors.ts";
import type { VariantRow } from "./tables/show-tables.ts";

/**
 * Revisions of shows that people gave names. Every revision is kept anyway, so a variant that is
 * removed takes nothing with it but its name.
 */
export class VariantStore {
  readonly #database: StudioDatabase;
  /** One transaction after another: SQLite has one writer at a time. */
  readonly #oneAtATime = pLimit(1);

  constructor(database: StudioDatabase) {
    this.#database = database;
  }

  /** Those of a show, the one kept last first. */
  async list(showId: string): Promise<Variant[]> {
    const rows = await this.#database.variants.findAll({ where: { showId }, order: [["createdAt", "DESC"]] });
    return rows.map(toVariant);
  }

  /** Throws `variant-unknown`. */
  async get(showId: string, id: string): Promise<Variant> {
    return toVariant(await this.#row(showId, id));
  }

  /** Throws `revision-unknown`, and `variants-full` where a show has as many as it may have. */
  async keep(showId: string, name: string, revision: number): Promise<Variant> {
    try {
      return await this.#oneAtATime(() =>
        this.#database.sequelize.transaction(async (transaction) => {
          const known = await this.#database.revisions.count({ where: { showId, revision }, transaction });
          if (known === 0) throw storeError("revision-unknown", { revision });
          const kept = await this.#database.variants.count({ where: { showId }, transaction });
          if (kept >= MOST_VARIANTS) throw storeError("variants-full", { most: MOST_VARIANTS });
          const row = { id: randomUUID(), showId, name, revision };
          return toVariant(await this.#database.variants.create(row, { transaction }));
        }),
      );
    } catch (error) {
      throw asStorageError(error, "the variant could not be kept");
    }
  }

  /** Throws `variant-unknown`. */
  async rename(showId: string, id: string, name: string): Promise<Variant> {
    const row = await this.#row(showId, id);
    try {
      return toVariant(await row.update({ name }));
    } catch (error) {
      throw asStorageError(error, "the variant could not be renamed");
    }
  }

  async remove(showId: string, id: string): Promise<void> {
    await this.#database.variants.destroy({ where: { showId, id } });
  }

  async #row(showId: string, id: string): Promise<VariantRow> {
    const row = await this.#database.variants.findOne({ where: { showId, id } });
    if (!row) throw storeError("variant-unknown");
    return row;
  }
}

const toVariant = ({ id, name, revision, createdAt }: VariantRow): Variant => ({
  id,
  name,
  revision,
  keptAt: createdAt.toISOString(),
});

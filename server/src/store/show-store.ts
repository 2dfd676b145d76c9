import { randomUUID } from "node:crypto";
import { HummingTideError } from "@humming-tide/core";
import { newShowDocument, type ShowDocument, showDocumentSchema } from "@humming-tide/core/show";
import type { Sequelize, Transaction } from "sequelize";
import { sayDiskFull } from "../failures.ts";
import { RevisionRow, ShowRow } from "./database.ts";

export interface StoredShow {
  readonly id: string;
  readonly revision: number;
  readonly updatedAt: Date;
  readonly document: ShowDocument;
}

/** Shows by revision: every saved document is kept, and a save names the revision that it was made from. */
export class ShowStore {
  readonly #database: Sequelize;

  constructor(database: Sequelize) {
    this.#database = database;
  }

  async list(): Promise<StoredShow[]> {
    return (await ShowRow.findAll({ order: [["updatedAt", "DESC"]] })).map(toStoredShow);
  }

  /** Throws `show-unknown`. */
  async get(id: string): Promise<StoredShow> {
    const row = await ShowRow.findByPk(id);
    if (!row)
      throw new HummingTideError(
        "show-unknown",
        "There is no show at this address. It may have been made in another data folder.",
      );
    return toStoredShow(row);
  }

  async create(title: string, document: ShowDocument = newShowDocument(title)): Promise<StoredShow> {
    const id = randomUUID();
    const text = JSON.stringify(document);
    return this.#written(async (transaction) => {
      const row = await ShowRow.create({ id, revision: 1, document: text }, { transaction });
      await RevisionRow.create({ showId: id, revision: 1, document: text }, { transaction });
      return toStoredShow(row);
    });
  }

  /**
   * Saves a document over the revision it was made from. Throws `show-changed` where another save came first: then nothing is
   * written, and the caller decides with both documents at hand.
   */
  async save(id: string, fromRevision: number, document: ShowDocument): Promise<StoredShow> {
    const text = JSON.stringify(document);
    return this.#written(async (transaction) => {
      const [changed] = await ShowRow.update(
        { document: text, revision: fromRevision + 1 },
        { where: { id, revision: fromRevision }, transaction },
      );
      if (changed === 0) {
        const now = await ShowRow.findByPk(id, { transaction });
        if (!now) throw new HummingTideError("show-unknown", "There is no show at this address.");
        throw new HummingTideError(
          "show-changed",
          `This show was changed elsewhere in the meantime (it is at revision ${now.revision}, this edit was made on ${fromRevision}). Nothing was overwritten.`,
        );
      }
      await RevisionRow.create({ showId: id, revision: fromRevision + 1, document: text }, { transaction });
      return toStoredShow((await ShowRow.findByPk(id, { transaction }))!);
    });
  }

  async #written<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
    try {
      return await this.#database.transaction(work);
    } catch (error) {
      throw sayDiskFull(error, "the show could not be saved");
    }
  }
}

function toStoredShow(row: ShowRow): StoredShow {
  const document = showDocumentSchema.parse(JSON.parse(row.document));
  return { id: row.id, revision: row.revision, updatedAt: row.updatedAt, document };
}

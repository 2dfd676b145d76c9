import { randomUUID } from "node:crypto";
import { promisify } from "node:util";
import { deflate, inflate } from "node:zlib";
import { DELETED_DAYS, type RevisionPage, type ShowPlace } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import {
  describeChange,
  hasPicture,
  newShowDocument,
  readShowDocument,
  type ShowDocument,
} from "@humming-tide/core/show";
import pLimit from "p-limit";
import { Op, type Sequelize, type Transaction } from "sequelize";
import { asStorageError } from "../storage-errors.ts";
import {
  ClientCommentRow,
  ClientPageRow,
  ClientPaymentRow,
  ClientVersionRow,
  DeliveryRow,
  ExportRow,
  IntakeRow,
  RevisionRow,
  ShowRow,
} from "./database.ts";

const pack = promisify(deflate);
const unpack = promisify(inflate);

export interface StoredShow {
  readonly id: string;
  readonly revision: number;
  readonly updatedAt: Date;
  readonly place: ShowPlace;
  readonly deletedAt: Date | null;
  readonly document: ShowDocument;
}

/** Revisions in one page of the history. */
const PAGE = 40;

/** Shows by revision: every saved document is kept, and a save names the revision that it was made from. */
export class ShowStore {
  readonly #database: Sequelize;
  /** One transaction after another: SQLite has one writer at a time, and waiting here is cheaper than being refused there. */
  readonly #oneAtATime = pLimit(1);

  constructor(database: Sequelize) {
    this.#database = database;
  }

  /** All shows, those on the shelf, archived and deleted, the last changed first. */
  async list(): Promise<StoredShow[]> {
    return (await ShowRow.findAll({ order: [["updatedAt", "DESC"]] })).map(toStoredShow);
  }

  /** Throws `show-unknown`, and `show-deleted` for one that waits to go. */
  async get(id: string): Promise<StoredShow> {
    return toStoredShow(await this.#row(id));
  }

  /** Cheaper than `get`: asked for every few seconds by every open page. Throws what `get` throws. */
  async revision(id: string): Promise<number> {
    const row = await ShowRow.findByPk(id, { attributes: ["revision", "deletedAt"] });
    return this.#present(row).revision;
  }

  async create(title: string, document: ShowDocument = newShowDocument(title)): Promise<StoredShow> {
    const id = randomUUID();
    const text = JSON.stringify(document);
    const packed = await pack(text);
    return this.#written(async (transaction) => {
      const row = await ShowRow.create(
        { id, revision: 1, document: text, archivedAt: null, deletedAt: null },
        { transaction },
      );
      await RevisionRow.create({ showId: id, revision: 1, document: packed }, { transaction });
      return toStoredShow(row);
    });
  }

  /**
   * Saves a document over the revision it was made from. Throws `show-changed` where another save came first: then nothing is
   * written, and the caller decides with both documents at hand.
   */
  async save(id: string, fromRevision: number, document: ShowDocument): Promise<StoredShow> {
    const text = JSON.stringify(document);
    const packed = await pack(text);
    return this.#written(async (transaction) => {
      const [changed] = await ShowRow.update(
        { document: text, revision: fromRevision + 1 },
        { where: { id, revision: fromRevision, deletedAt: null }, transaction },
      );
      if (changed === 0) {
        const now = await this.#row(id, transaction);
        throw new HummingTideError(
          "show-changed",
          `This show was changed elsewhere in the meantime (it is at revision ${now.revision}, this edit was made on ${fromRevision}). Nothing was overwritten.`,
        );
      }
      await RevisionRow.create({ showId: id, revision: fromRevision + 1, document: packed }, { transaction });
      return toStoredShow((await ShowRow.findByPk(id, { transaction }))!);
    });
  }

  /**
   * Changes the newest document, whoever saves in between: `edit` runs again on what they saved. For programs whose edits suit every
   * document, like adding pictures at the end. Throws what `edit` throws, and `show-unknown`.
   */
  async edit(id: string, edit: (document: ShowDocument) => ShowDocument): Promise<StoredShow> {
    for (;;) {
      const show = await this.get(id);
      const document = edit(show.document);
      if (document === show.document) return show;
      try {
        return await this.save(id, show.revision, document);
      } catch (error) {
        if (!(error instanceof HummingTideError) || error.code !== "show-changed") throw error;
      }
    }
  }

  /** The history, newest first, from before a revision (null: from the newest), each with what it changed. */
  async revisions(id: string, before: number | null): Promise<RevisionPage> {
    await this.#row(id);
    const rows = await RevisionRow.findAll({
      where: { showId: id, ...(before === null ? {} : { revision: { [Op.lt]: before } }) },
      order: [["revision", "DESC"]],
      limit: PAGE + 1,
    });
    const documents = await Promise.all(rows.map(readRevision));
    return {
      more: rows.length > PAGE,
      revisions: rows.slice(0, PAGE).map((row, index) => {
        const previous = documents[index + 1];
        return {
          revision: row.revision,
          savedAt: row.createdAt.toISOString(),
          changes: previous ? describeChange(previous, documents[index]!) : [],
          pictureCount: documents[index]!.slides.filter(hasPicture).length,
        };
      }),
    };
  }

  /** The document as it was. Throws `revision-unknown`. */
  async documentAt(id: string, revision: number): Promise<ShowDocument> {
    await this.#row(id);
    const row = await RevisionRow.findOne({ where: { showId: id, revision } });
    if (!row) throw new HummingTideError("revision-unknown", `This show has no revision ${revision}.`);
    return readRevision(row);
  }

  /** Puts a show on the shelf, in the archive, or where deleted ones wait. Does not touch its document. */
  async put(id: string, place: ShowPlace): Promise<StoredShow> {
    const now = new Date();
    return this.#written(async (transaction) => {
      const row = await ShowRow.findByPk(id, { transaction });
      if (!row) throw unknownShow();
      // Not a change of the show: its place among the last changed stays.
      await row.update(
        { archivedAt: place === "archive" ? now : null, deletedAt: place === "deleted" ? now : null },
        { transaction, silent: true },
      );
      return toStoredShow(row);
    });
  }

  /** Takes away what was deleted longer ago than people have to change their minds. Returns the ids of exports that went with it. */
  async purgeDeleted(now: Date): Promise<string[]> {
    const limit = new Date(now.getTime() - DELETED_DAYS * 86_400_000);
    const rows = await ShowRow.findAll({ where: { deletedAt: { [Op.lt]: limit } }, attributes: ["id"] });
    const showId = rows.map(({ id }) => id);
    if (showId.length === 0) return [];
    return this.#written(async (transaction) => {
      const exports = await ExportRow.findAll({ where: { showId }, attributes: ["id"], transaction });
      for (const row of [DeliveryRow, ClientPaymentRow, ClientCommentRow, ClientVersionRow, ClientPageRow])
        await (row as typeof ClientPageRow).destroy({ where: { showId }, transaction });
      await ExportRow.destroy({ where: { showId }, transaction });
      await IntakeRow.destroy({ where: { showId }, transaction });
      await RevisionRow.destroy({ where: { showId }, transaction });
      await ShowRow.destroy({ where: { id: showId }, transaction });
      return exports.map(({ id }) => id);
    });
  }

  async #row(id: string, transaction?: Transaction): Promise<ShowRow> {
    return this.#present(await ShowRow.findByPk(id, transaction ? { transaction } : {}));
  }

  #present(row: ShowRow | null): ShowRow {
    if (!row) throw unknownShow();
    if (row.deletedAt) {
      throw new HummingTideError(
        "show-deleted",
        `This show was deleted on ${row.deletedAt.toISOString().slice(0, 10)}. It can be brought back on the shelf for ${DELETED_DAYS} days.`,
      );
    }
    return row;
  }

  async #written<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
    try {
      return await this.#oneAtATime(() => this.#database.transaction(work));
    } catch (error) {
      throw asStorageError(error, "the show could not be saved");
    }
  }
}

const unknownShow = (): HummingTideError =>
  new HummingTideError(
    "show-unknown",
    "There is no show at this address. It may have been made in another data folder.",
  );

const readRevision = async (row: RevisionRow): Promise<ShowDocument> =>
  readShowDocument(JSON.parse((await unpack(row.document)).toString()));

function toStoredShow(row: ShowRow): StoredShow {
  return {
    id: row.id,
    revision: row.revision,
    updatedAt: row.updatedAt,
    place: row.deletedAt ? "deleted" : row.archivedAt ? "archive" : "shelf",
    deletedAt: row.deletedAt,
    document: readShowDocument(JSON.parse(row.document)),
  };
}

import { randomUUID } from "node:crypto";
import { DELETED_DAYS, type RevisionPage, type ShowPlace } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { itemAt } from "@humming-tide/core/presence";
import { newShowDocument, type ShowDocument } from "@humming-tide/core/show";
import pLimit from "p-limit";
import { Op, type Transaction } from "sequelize";
import type { Background } from "../background/background.ts";
import type { CheckedDocument } from "../documents/checked-document.ts";
import { asStorageError } from "../storage-errors.ts";
import type { StudioDatabase } from "./database.ts";
import type { StoredSummary } from "./show-listings.ts";
import { storeError } from "./store-errors.ts";
import type { ShowRow } from "./tables/show-tables.ts";

/** A show whose document is text as it was saved, not read yet. */
export interface StoredText {
  readonly id: string;
  readonly revision: number;
  readonly updatedAt: Date;
  readonly place: ShowPlace;
  readonly deletedAt: Date | null;
  readonly text: string;
}

export interface StoredShow extends Omit<StoredText, "text"> {
  readonly document: ShowDocument;
}

/** A revision that was saved. */
export interface SavedRevision {
  readonly id: string;
  readonly revision: number;
}

/** Revisions in one page of the history. */
const PAGE = 40;

/**
 * Shows by revision: every saved document is kept, and a save names the revision that it was made
 * from.
 */
export class ShowStore {
  readonly #database: StudioDatabase;
  readonly #background: Background;
  readonly #onSaved: (saved: SavedRevision) => void;
  /**
   * One transaction after another: SQLite has one writer at a time, and waiting here is cheaper
   * than being refused there.
   */
  readonly #oneAtATime = pLimit(1);

  /**
   * `onSaved` hears of every new revision, and with revision 0 of a show that was put elsewhere.
   */
  constructor(
    database: StudioDatabase,
    background: Background,
    onSaved: (saved: SavedRevision) => void = () => undefined,
  ) {
    this.#database = database;
    this.#background = background;
    this.#onSaved = onSaved;
  }

  /**
   * Throws `show-unknown`, `show-deleted` for one that waits to go, and `show-damaged` or
   * `show-newer` where its document cannot be read.
   */
  async get(id: string): Promise<StoredShow> {
    const { text, ...show } = await this.getText(id);
    return { ...show, document: await this.#background.run("readStored", text) };
  }

  /** The same without reading the document. Throws `show-unknown` and `show-deleted`. */
  async getText(id: string): Promise<StoredText> {
    return toStoredText(await this.#row(id));
  }

  /** Throws what `getText` throws. */
  async revision(id: string): Promise<number> {
    const row = await this.#database.shows.findByPk(id, { attributes: ["revision", "deletedAt"] });
    return this.#present(row).revision;
  }

  async create(title: string, document: ShowDocument = newShowDocument(title)): Promise<StoredShow> {
    const { id } = await this.createChecked(await this.#checked(document));
    return this.get(id);
  }

  async createChecked(checked: CheckedDocument): Promise<SavedRevision> {
    const id = randomUUID();
    await this.#written(async (transaction) => {
      await this.#database.shows.create(
        {
          id,
          revision: 1,
          ...columnsOf(checked),
          archivedAt: null,
          deletedAt: null,
          filmSeconds: null,
          filmRevision: null,
        },
        { transaction },
      );
      await this.#database.revisions.create(
        { showId: id, revision: 1, document: Buffer.from(checked.packed) },
        { transaction },
      );
    });
    return this.#saved({ id, revision: 1 });
  }

  /** As `saveChecked`, for programs that have the document at hand. */
  async save(id: string, fromRevision: number, document: ShowDocument): Promise<StoredShow> {
    await this.saveChecked(id, fromRevision, await this.#checked(document));
    return this.get(id);
  }

  /**
   * Saves a document over the revision it was made from. Throws `show-changed` where another save
   * came first: then nothing is written, and the caller decides with both documents at hand.
   */
  async saveChecked(id: string, fromRevision: number, checked: CheckedDocument): Promise<SavedRevision> {
    const revision = fromRevision + 1;
    await this.#written(async (transaction) => {
      const [changed] = await this.#database.shows.update(
        { ...columnsOf(checked), revision },
        { where: { id, revision: fromRevision, deletedAt: null }, transaction },
      );
      if (changed === 0) {
        throw showChanged((await this.#row(id, transaction)).revision, fromRevision);
      }
      await this.#database.revisions.create(
        { showId: id, revision, document: Buffer.from(checked.packed) },
        { transaction },
      );
    });
    return this.#saved({ id, revision });
  }

  /**
   * Saves what changed since a revision: `delta` is the JSON of a DocumentDelta (core/show). Throws
   * as `saveChecked`, and `json-…` or what Zod throws where the delta leads to no valid document.
   */
  async saveChange(id: string, fromRevision: number, delta: Uint8Array): Promise<SavedRevision> {
    const { revision, text: base } = await this.getText(id);
    if (revision !== fromRevision) throw showChanged(revision, fromRevision);
    return this.saveChecked(id, fromRevision, await this.#background.run("changeStored", { base, delta }));
  }

  /**
   * Changes the newest document, whoever saves in between: `edit` runs again on what they saved.
   * For programs whose edits suit every document, like adding pictures at the end. Throws what
   * `edit` throws, and `show-unknown`.
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

  /**
   * The history, newest first, from before a revision (null: from the newest), each with what it
   * changed.
   */
  async revisions(id: string, before: number | null): Promise<RevisionPage> {
    await this.revision(id);
    const rows = await this.#database.revisions.findAll({
      where: { showId: id, ...(before === null ? {} : { revision: { [Op.lt]: before } }) },
      order: [["revision", "DESC"]],
      limit: PAGE + 1,
    });
    const described = await this.#background.run(
      "describe",
      rows.map(({ document }) => document),
    );
    return {
      more: rows.length > PAGE,
      revisions: rows.slice(0, PAGE).map((row, index) => {
        const { changes, pictureCount, problem } = itemAt(described, index);
        return {
          revision: row.revision,
          savedAt: row.createdAt.toISOString(),
          changes: [...changes],
          pictureCount,
          problem,
        };
      }),
    };
  }

  /**
   * The document as it was. Throws `revision-unknown`, and `show-damaged` or `show-newer` where it
   * cannot be read.
   */
  async documentAt(id: string, revision: number): Promise<ShowDocument> {
    await this.revision(id);
    const row = await this.#database.revisions.findOne({ where: { showId: id, revision } });
    if (!row) throw storeError("revision-unknown", { revision });
    return this.#background.run("unpack", row.document);
  }

  /** The newest revision that can be read; null where none can. */
  async lastReadable(id: string): Promise<{ readonly revision: number; readonly savedAt: Date } | null> {
    await this.revision(id);
    const keys = await this.#database.revisions.findAll({
      where: { showId: id },
      attributes: ["revision", "createdAt"],
      order: [["revision", "DESC"]],
    });
    for (const { revision, createdAt } of keys) {
      const row = await this.#database.revisions.findOne({ where: { showId: id, revision } });
      if (row && (await this.#background.run("isReadable", row.document))) return { revision, savedAt: createdAt };
    }
    return null;
  }

  /**
   * Goes back to the newest revision that can be read, where the saved document cannot; it becomes
   * a revision of its own. Throws `show-readable` where there is no need, and
   * `no-readable-revision`.
   */
  async restore(id: string): Promise<SavedRevision> {
    const { revision: now, text } = await this.getText(id);
    const isReadable = await this.#background.run("checkStored", text).then(
      () => true,
      () => false,
    );
    if (isReadable) throw storeError("show-readable");
    const readable = await this.lastReadable(id);
    if (!readable) throw storeError("no-readable-revision");
    return this.saveChecked(id, now, await this.#checked(await this.documentAt(id, readable.revision)));
  }

  /**
   * Puts a show on the shelf, in the archive, or where deleted ones wait. Does not touch its
   * document.
   */
  async put(id: string, place: ShowPlace): Promise<Omit<StoredText, "text">> {
    const now = new Date();
    const put = await this.#written(async (transaction) => {
      const row = await this.#database.shows.findByPk(id, { transaction });
      if (!row) throw unknownShow();
      // Not a change of the show: its place among the last changed stays.
      await row.update(
        { archivedAt: place === "archive" ? now : null, deletedAt: place === "deleted" ? now : null },
        { transaction, silent: true },
      );
      return toStoredText(row);
    });
    this.#saved({ id, revision: 0 });
    return put;
  }

  /**
   * Takes away what was deleted longer ago than people have to change their minds. Returns the ids
   * of exports that went with it.
   */
  async purgeDeleted(now: Date): Promise<string[]> {
    const limit = new Date(now.getTime() - DELETED_DAYS * 86_400_000);
    const rows = await this.#database.shows.findAll({ where: { deletedAt: { [Op.lt]: limit } }, attributes: ["id"] });
    const showId = rows.map(({ id }) => id);
    if (showId.length === 0) return [];
    return this.#written(async (transaction) => {
      const exports = await this.#database.exports.findAll({ where: { showId }, attributes: ["id"], transaction });
      const where = { showId };
      // Whatever refers to something else goes before it.
      await this.#database.deliveries.destroy({ where, transaction });
      await this.#database.clientVisitors.destroy({ where, transaction });
      await this.#database.clientPayments.destroy({ where, transaction });
      await this.#database.clientComments.destroy({ where, transaction });
      await this.#database.clientVersions.destroy({ where, transaction });
      await this.#database.clientPages.destroy({ where, transaction });
      await this.#database.exports.destroy({ where, transaction });
      await this.#database.intakeFiles.destroy({ where, transaction });
      await this.#database.variants.destroy({ where, transaction });
      await this.#database.revisions.destroy({ where, transaction });
      await this.#database.shows.destroy({ where: { id: showId }, transaction });
      return exports.map(({ id }) => id);
    });
  }

  #checked(document: ShowDocument): Promise<CheckedDocument> {
    return this.#background.run("checkStored", JSON.stringify(document));
  }

  #saved(saved: SavedRevision): SavedRevision {
    this.#onSaved(saved);
    return saved;
  }

  async #row(id: string, transaction?: Transaction): Promise<ShowRow> {
    return this.#present(await this.#database.shows.findByPk(id, transaction ? { transaction } : {}));
  }

  #present(row: ShowRow | null): ShowRow {
    if (!row) throw unknownShow();
    if (row.deletedAt) {
      throw storeError("show-deleted", {
        day: row.deletedAt.toISOString().slice(0, 10),
        keptDays: DELETED_DAYS,
      });
    }
    return row;
  }

  async #written<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
    try {
      return await this.#oneAtATime(() => this.#database.sequelize.transaction(work));
    } catch (error) {
      throw asStorageError(error, "the show could not be saved");
    }
  }
}

const showChanged = (now: number, from: number): HummingTideError => storeError("show-changed", { now, from });

const unknownShow = (): HummingTideError => storeError("show-unknown");

const columnsOf = ({ text, summary, filmKey }: CheckedDocument) => ({
  document: text,
  summary: JSON.stringify({ kind: "readable", ...summary } satisfies StoredSummary),
  filmKey,
});

function toStoredText(row: ShowRow): StoredText {
  return {
    id: row.id,
    revision: row.revision,
    updatedAt: row.updatedAt,
    place: row.deletedAt ? "deleted" : row.archivedAt ? "archive" : "shelf",
    deletedAt: row.deletedAt,
    text: row.document,
  };
}

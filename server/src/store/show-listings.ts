import type { ShowSummary } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { itemAt, present } from "@humming-tide/core/presence";
import { SHOW_DOCUMENT_VERSION } from "@humming-tide/core/show";
import { Op, QueryTypes } from "sequelize";
import type { Background } from "../background/background.ts";
import type { DocumentSummary } from "../documents/checked-document.ts";
import type { StudioDatabase } from "./database.ts";
import type { ShowRow } from "./tables/show-tables.ts";

/** What is kept beside each show, so that the shelf reads no document. */
export type StoredSummary =
  | ({ readonly kind: "readable" } & DocumentSummary)
  | {
      readonly kind: "unreadable";
      readonly problem: "damaged" | "newer";
      readonly message: string;
      /** As far as it can be told. */
      readonly title: string;
    };

interface ListedRow {
  readonly id: string;
  readonly revision: number;
  readonly summary: StoredSummary | null;
  readonly film_key: string | null;
  readonly film_seconds: number | null;
  readonly film_revision: number | null;
  readonly updated_at: string;
  readonly archived_at: string | null;
  readonly deleted_at: string | null;
  readonly exported_key: string | null;
}

/**
 * All rows, in no order, as one JSON text. Rows one by one cost more, for each value crosses from
 * SQLite to JavaScript alone; sorting in SQLite would carry the documents along.
 */
const LISTED = `SELECT json_group_array(json_object(
    'id', id, 'revision', revision, 'summary', iif(json_valid(summary), json(summary), NULL),
    'film_key', film_key, 'film_seconds', film_seconds, 'film_revision', film_revision,
    'updated_at', updated_at, 'archived_at', archived_at, 'deleted_at', deleted_at,
    'exported_key', (SELECT exports.film_key FROM exports WHERE exports.show_id = shows.id AND state = 'done'
      ORDER BY created_at DESC LIMIT 1))) AS listed
  FROM shows`;

const NOT_READ_YET = "This show has not been read yet. Start the program again.";

/** SQLite takes this many values in a statement with ease. */
const ASKED_AT_ONCE = 500;

/** The shows of the shelf, from summaries that are written with each revision. */
export class ShowListings {
  readonly #database: StudioDatabase;
  readonly #background: Background;

  constructor(database: StudioDatabase, background: Background) {
    this.#database = database;
    this.#background = background;
  }

  /**
   * All shows, those on the shelf, archived and deleted, the last changed first. One that cannot be
   * read is listed as such.
   */
  async list(): Promise<ShowSummary[]> {
    const [answer] = await this.#database.sequelize.query<{ listed: string }>(LISTED, { type: QueryTypes.SELECT });
    const rows = JSON.parse(answer?.listed ?? "[]") as ListedRow[];
    const songs = rows.flatMap(({ summary }) => (summary?.kind === "readable" ? summary.songs : []));
    const seconds = await this.#songSeconds([...new Set(songs.map(({ sha256 }) => sha256))]);
    return rows.map((row) => listed(row, seconds)).sort((a, b) => (a.updatedAt < b.updatedAt ? 1 : -1));
  }

  /** Shows whose film has not been measured since they were changed, the last changed first. */
  async unmeasured(): Promise<{ readonly id: string; readonly revision: number }[]> {
    return this.#database.sequelize.query<{ id: string; revision: number }>(
      `SELECT id, revision FROM shows WHERE deleted_at IS NULL AND film_key IS NOT NULL AND film_revision IS NOT revision
        ORDER BY updated_at DESC`,
      { type: QueryTypes.SELECT },
    );
  }

  /** Notes how long the film of a revision is; nothing where the show has been changed since. */
  async measured(id: string, revision: number, filmSeconds: number | null): Promise<void> {
    await this.#database.shows.update(
      { filmSeconds, filmRevision: revision },
      { where: { id, revision }, silent: true },
    );
  }

  /**
   * Sums up what has no summary of this version of the program: everything after an upgrade,
   * nothing at other starts. Then looks whether each document is still JSON of a version that can
   * be read. `onProgress` hears how many are done of how many.
   */
  async sumUp(onProgress: (done: number, total: number) => void = () => undefined): Promise<void> {
    const rows = await this.#database.sequelize.query<{ id: string }>(
      `SELECT id FROM shows WHERE CASE
        WHEN summary IS NULL OR NOT json_valid(document) THEN 1
        ELSE json_extract(summary, '$.version') IS NOT ${SHOW_DOCUMENT_VERSION}
          OR json_extract(document, '$.version') > ${SHOW_DOCUMENT_VERSION} END`,
      { type: QueryTypes.SELECT },
    );
    const exports = await this.#database.exports.findAll({
      attributes: ["id"],
      where: { [Op.or]: [{ fileName: null }, { filmKey: { [Op.notLike]: `${SHOW_DOCUMENT_VERSION}:%` } }] },
    });
    const total = rows.length + exports.length;
    let done = 0;
    for (const { id } of rows) {
      await this.#sumUpShow(id);
      onProgress(++done, total);
    }
    for (const { id } of exports) {
      await this.#sumUpExport(id);
      onProgress(++done, total);
    }
  }

  /** Notes that a show's document cannot be read. */
  async unreadable(id: string, error: HummingTideError): Promise<void> {
    const row = await this.#database.shows.findByPk(id);
    if (!row) return;
    const summary: StoredSummary = {
      kind: "unreadable",
      problem: error.code === "show-newer" ? "newer" : "damaged",
      message: error.message,
      title: titleIn(row),
    };
    await row.update({ summary: JSON.stringify(summary), filmKey: null }, { silent: true });
  }

  async #sumUpShow(id: string): Promise<void> {
    const row = present(await this.#database.shows.findByPk(id));
    try {
      const { summary, filmKey } = await this.#background.run("checkStored", row.document);
      const stored: StoredSummary = { kind: "readable", ...summary };
      await row.update({ summary: JSON.stringify(stored), filmKey }, { silent: true });
    } catch (error) {
      if (!(error instanceof HummingTideError)) throw error;
      await this.unreadable(id, error);
    }
  }

  async #sumUpExport(id: string): Promise<void> {
    const row = present(await this.#database.exports.findByPk(id));
    const { document: text, output, fileName } = row;
    const facts = await this.#background.run("exportFacts", { text, output });
    await row.update({ ...facts, fileName: fileName ?? facts.fileName });
  }

  /** How long songs are, by content hash. */
  async #songSeconds(hashes: readonly string[]): Promise<ReadonlyMap<string, number>> {
    const seconds = new Map<string, number>();
    for (let at = 0; at < hashes.length; at += ASKED_AT_ONCE) {
      const rows = await this.#database.sequelize.query<{ sha256: string; seconds: number }>(
        "SELECT sha256, json_extract(facts, '$.durationSeconds') AS seconds FROM media WHERE sha256 IN (?)",
        { type: QueryTypes.SELECT, replacements: [hashes.slice(at, at + ASKED_AT_ONCE)] },
      );
      for (const row of rows) seconds.set(row.sha256, row.seconds);
    }
    return seconds;
  }
}

/**
 * An instant as the database has it, "2026-10-01 10:00:00.000 +00:00", in ISO 8601; ten times
 * quicker than by way of a date.
 */
const isoText = (stored: string): string => `${stored.slice(0, 10)}T${stored.slice(11, 23)}Z`;

/**
 * Plain assignments, for this runs for every show: spreading parts together takes ten times as
 * long.
 */
function listed(row: ListedRow, songSeconds: ReadonlyMap<string, number>): ShowSummary {
  const { summary } = row;
  const isReadable = summary?.kind === "readable";
  const songs = isReadable ? summary.songs : [];
  return {
    id: row.id,
    revision: row.revision,
    updatedAt: isoText(row.updated_at),
    place: row.deleted_at ? "deleted" : row.archived_at ? "archive" : "shelf",
    deletedAt: row.deleted_at && isoText(row.deleted_at),
    title: summary?.title ?? "",
    event: isReadable ? summary.event : "",
    date: isReadable ? summary.date : null,
    client: isReadable ? summary.client : "",
    pictureCount: isReadable ? summary.pictureCount : 0,
    poster: isReadable ? summary.poster : null,
    songFileName: songs.map(({ fileName }) => fileName).join(", ") || null,
    songSeconds: songs.length > 0 ? songs.reduce((sum, { sha256 }) => sum + (songSeconds.get(sha256) ?? 0), 0) : null,
    filmSeconds: isReadable && row.film_revision === row.revision ? row.film_seconds : null,
    state: isReadable ? stateOf(summary, row) : (summary?.problem ?? "damaged"),
    problem: isReadable ? null : (summary?.message ?? NOT_READ_YET),
  };
}

function stateOf(
  { slideCount, songs }: DocumentSummary,
  { film_key, exported_key }: Pick<ListedRow, "film_key" | "exported_key">,
): ShowSummary["state"] {
  if (slideCount === 0) return "pictures-wanted";
  if (songs.length === 0) return "song-wanted";
  if (exported_key === null) return "laid-out";
  return exported_key === film_key ? "exported" : "changed-since-export";
}

/** The title in a document that cannot be read, if anything of it can. */
const titleIn = ({ document }: Pick<ShowRow, "document">): string => {
  const match = /"title":("(?:[^"\\]|\\.){0,400}")/.exec(document.slice(0, 2000));
  try {
    return match ? (JSON.parse(itemAt(match, 1)) as string) : "";
  } catch {
    return "";
  }
};

import { randomUUID } from "node:crypto";
import { type ExportJob, exportJobSchema } from "@humming-tide/contract";
import type { HummingTideError } from "@humming-tide/core";
import type { FilmOutput, ShowDocument } from "@humming-tide/core/show";
import { exportFacts } from "../documents/export-facts.ts";
import type { StudioDatabase } from "./database.ts";
import { jobStatusOf } from "./job-status.ts";
import { JobTable } from "./job-table.ts";
import { storeError } from "./store-errors.ts";
import type { ExportRow } from "./tables/film-tables.ts";

/** Everything but the document, which is large and seldom wanted. */
const LISTED = { attributes: { exclude: ["document"] } };
type ListedExport = Omit<ExportRow, "document">;

export interface ListedFilm {
  readonly job: ExportJob;
  /** The same for exports and shows that make the same films (documents/checked-document.ts). */
  readonly filmKey: string | null;
}

/** Exports, with the shows as they were when they were asked for. */
export class ExportStore {
  readonly jobs: JobTable;
  readonly #database: StudioDatabase;

  constructor(database: StudioDatabase) {
    this.#database = database;
    this.jobs = new JobTable(database.sequelize, "exports");
  }

  async create(showId: string, document: ShowDocument, output: FilmOutput): Promise<ExportJob> {
    const row = await this.#database.exports.create({
      id: randomUUID(),
      showId,
      state: "queued",
      document: JSON.stringify(document),
      error: null,
      bytes: null,
      measurement: null,
      copiedTo: null,
      ...exportFacts(document, output),
    });
    return toJob(row);
  }

  /** Throws `export-unknown`. */
  async get(id: string): Promise<ExportJob> {
    const row = await this.#database.exports.findByPk(id, LISTED);
    if (!row) throw unknownExport();
    return toJob(row);
  }

  /**
   * The show as it was when the export was asked for, as text: later edits do not reach a running
   * export. Throws `export-unknown`.
   */
  async documentText(id: string): Promise<string> {
    const row = await this.#database.exports.findByPk(id, { attributes: ["document"] });
    if (!row) throw unknownExport();
    return row.document;
  }

  /** The newest first. */
  async listForShow(showId: string): Promise<ExportJob[]> {
    return (await this.filmsOfShow(showId)).map(({ job }) => job);
  }

  /** The same with what tells whether they are still the show's films. */
  async filmsOfShow(showId: string): Promise<ListedFilm[]> {
    const rows = await this.#database.exports.findAll({
      where: { showId },
      order: [["createdAt", "DESC"]],
      ...LISTED,
    });
    return rows.map((row) => ({ job: toJob(row), filmKey: row.filmKey }));
  }

  async filmKey(id: string): Promise<string | null> {
    return (await this.#database.exports.findByPk(id, { attributes: ["filmKey"] }))?.filmKey ?? null;
  }

  /** What is queued or running. */
  async waiting(): Promise<ExportJob[]> {
    const where = { state: ["queued", "running"] };
    return (await this.#database.exports.findAll({ where, ...LISTED })).map(toJob);
  }

  /** Notes what became of an export: its size, its measurement and where it was put. */
  async finish(
    id: string,
    { bytes, measurement, copiedTo }: Pick<ExportJob, "bytes" | "measurement" | "copiedTo">,
  ): Promise<void> {
    const change = { bytes, measurement: measurement && JSON.stringify(measurement), copiedTo };
    await this.#database.exports.update(change, { where: { id } });
  }
}

const unknownExport = (): HummingTideError => storeError("export-unknown");

function toJob(row: ListedExport): ExportJob {
  if (row.fileName === null || row.output === null) throw new Error(`Export ${row.id} was not summed up`);
  return exportJobSchema.parse({
    ...jobStatusOf(row),
    id: row.id,
    showId: row.showId,
    fileName: row.fileName,
    output: JSON.parse(row.output) as unknown,
    bytes: row.bytes,
    createdAt: row.createdAt.toISOString(),
    copiedTo: row.copiedTo,
    measurement: row.measurement ? (JSON.parse(row.measurement) as unknown) : null,
  });
}

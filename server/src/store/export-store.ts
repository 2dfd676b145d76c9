import { randomUUID } from "node:crypto";
import { type ExportJob, exportJobSchema, type FilmMeasurement } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import type { FilmOutput, ShowDocument } from "@humming-tide/core/show";
import { exportFacts } from "../documents/export-facts.ts";
import { ExportRow } from "./database.ts";

/** Everything but the document, which is large and seldom wanted. */
const LISTED = { attributes: { exclude: ["document"] } };
type ListedExport = Omit<ExportRow, "document">;

export interface ListedFilm {
  readonly job: ExportJob;
  /** The same for exports and shows that make the same films (documents/checked-document.ts). */
  readonly filmKey: string | null;
}

/** An export that brings the server down is begun this often. */
const MOST_TRIES = 3;

export const exportStore = {
  async create(showId: string, document: ShowDocument, output: FilmOutput): Promise<ExportJob> {
    const row = await ExportRow.create({
      id: randomUUID(),
      showId,
      state: "queued",
      document: JSON.stringify(document),
      progress: 0,
      step: "Waiting",
      error: null,
      restarts: 0,
      bytes: null,
      measurement: null,
      copiedTo: null,
      ...exportFacts(document, output),
    });
    return toJob(row);
  },

  /** Throws `export-unknown`. */
  async get(id: string): Promise<ExportJob> {
    const row = await ExportRow.findByPk(id, LISTED);
    if (!row) throw unknownExport();
    return toJob(row);
  },

  /**
   * The show as it was when the export was asked for, as text: later edits do not reach a running
   * export. Throws `export-unknown`.
   */
  async documentText(id: string): Promise<string> {
    const row = await ExportRow.findByPk(id, { attributes: ["document"] });
    if (!row) throw unknownExport();
    return row.document;
  },

  /** The newest first. */
  async listForShow(showId: string): Promise<ExportJob[]> {
    return (await exportStore.filmsOfShow(showId)).map(({ job }) => job);
  },

  /** The same with what tells whether they are still the show's films. */
  async filmsOfShow(showId: string): Promise<ListedFilm[]> {
    const rows = await ExportRow.findAll({ where: { showId }, order: [["createdAt", "DESC"]], ...LISTED });
    return rows.map((row) => ({ job: toJob(row), filmKey: row.filmKey }));
  },

  async filmKey(id: string): Promise<string | null> {
    return (await ExportRow.findByPk(id, { attributes: ["filmKey"] }))?.filmKey ?? null;
  },

  async nextQueued(): Promise<ExportJob | null> {
    const row = await ExportRow.findOne({ where: { state: "queued" }, order: [["createdAt", "ASC"]], ...LISTED });
    return row ? toJob(row) : null;
  },

  /** What is queued or running. */
  async waiting(): Promise<ExportJob[]> {
    return (await ExportRow.findAll({ where: { state: ["queued", "running"] }, ...LISTED })).map(toJob);
  },

  /**
   * Exports that were running when the server was killed go back into the queue; one that has been
   * running at `MOST_TRIES` such ends may be what brings the server down, and stays failed.
   */
  async requeueInterrupted(): Promise<void> {
    for (const row of await ExportRow.findAll({ where: { state: "running" }, ...LISTED })) {
      const restarts = row.restarts + 1;
      const failed = {
        state: "failed",
        step: "Failed",
        error:
          `The server stopped ${MOST_TRIES} times while this film was made, so it is not begun again ` +
          "by itself. The machine may lack memory: export fewer or smaller films at a time.",
      };
      const queued = { state: "queued", step: "Starting again after the server had stopped" };
      await row.update({ ...(restarts < MOST_TRIES ? queued : failed), progress: 0, restarts });
    }
  },

  async update(
    id: string,
    change: Partial<Pick<ExportJob, "state" | "progress" | "step" | "error" | "bytes" | "copiedTo">> & {
      measurement?: FilmMeasurement;
    },
  ): Promise<void> {
    const { measurement, ...columns } = change;
    await ExportRow.update(
      { ...columns, ...(measurement ? { measurement: JSON.stringify(measurement) } : {}) },
      { where: { id } },
    );
  },
};

const unknownExport = (): HummingTideError =>
  new HummingTideError("export-unknown", "There is no export at this address.");

function toJob(row: ListedExport): ExportJob {
  if (row.fileName === null || row.output === null) throw new Error(`Export ${row.id} was not summed up`);
  return exportJobSchema.parse({
    id: row.id,
    showId: row.showId,
    state: row.state,
    step: row.step,
    progress: row.progress,
    secondsLeft: null,
    error: row.error,
    restarts: row.restarts,
    fileName: row.fileName,
    output: JSON.parse(row.output) as unknown,
    bytes: row.bytes,
    createdAt: row.createdAt.toISOString(),
    copiedTo: row.copiedTo,
    measurement: row.measurement ? (JSON.parse(row.measurement) as unknown) : null,
  });
}

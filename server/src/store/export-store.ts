import { randomUUID } from "node:crypto";
import { type ExportJob, exportJobSchema, type FilmMeasurement } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { type FilmOutput, isVideo, mainOutput, readShowDocument, type ShowDocument } from "@humming-tide/core/show";
import { safeFileName } from "../file-names.ts";
import { ExportRow } from "./database.ts";

export interface StoredExport {
  readonly job: ExportJob;
  /** The show as it was when the export was asked for: later edits do not reach a running export. */
  readonly document: ShowDocument;
}

export const exportStore = {
  async create(showId: string, document: ShowDocument, output: FilmOutput): Promise<StoredExport> {
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
      output: JSON.stringify(output),
      copiedTo: null,
    });
    return toStoredExport(row);
  },

  async get(id: string): Promise<StoredExport> {
    const row = await ExportRow.findByPk(id);
    if (!row) throw new HummingTideError("export-unknown", "There is no export at this address.");
    return toStoredExport(row);
  },

  async listForShow(showId: string): Promise<StoredExport[]> {
    return (await ExportRow.findAll({ where: { showId }, order: [["createdAt", "DESC"]] })).map(toStoredExport);
  },

  /** The newest finished export of each show, by show id. */
  async finished(): Promise<Map<string, ShowDocument>> {
    const rows = await ExportRow.findAll({ where: { state: "done" }, order: [["createdAt", "ASC"]] });
    return new Map(rows.map((row) => [row.showId, readShowDocument(JSON.parse(row.document))]));
  },

  async nextQueued(): Promise<StoredExport | null> {
    const row = await ExportRow.findOne({ where: { state: "queued" }, order: [["createdAt", "ASC"]] });
    return row ? toStoredExport(row) : null;
  },

  /** What is queued or running. */
  async waiting(): Promise<StoredExport[]> {
    return (await ExportRow.findAll({ where: { state: ["queued", "running"] } })).map(toStoredExport);
  },

  /** Exports that were running when the server stopped go back into the queue. Returns how many. */
  async requeueInterrupted(): Promise<number> {
    const rows = await ExportRow.findAll({ where: { state: "running" } });
    for (const row of rows) {
      await row.update({
        state: "queued",
        progress: 0,
        step: "Starting again after the server had stopped",
        restarts: row.restarts + 1,
      });
    }
    return rows.length;
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

/** Documents of exports never change, and are asked for again and again by whoever watches a client page. */
const documents = new Map<string, ShowDocument>();
const KEPT_DOCUMENTS = 24;

function documentOf({ id, document: text }: ExportRow): ShowDocument {
  const document = documents.get(id) ?? readShowDocument(JSON.parse(text));
  // Moved to the end: last used, last dropped.
  documents.delete(id);
  documents.set(id, document);
  for (const oldest of documents.keys()) {
    if (documents.size <= KEPT_DOCUMENTS) break;
    documents.delete(oldest);
  }
  return document;
}

function toStoredExport(row: ExportRow): StoredExport {
  const document = documentOf(row);
  // Rows of before outputs had names say less, or nothing: they were as the show itself.
  const output = { ...mainOutput(document), ...(row.output ? (JSON.parse(row.output) as Partial<FilmOutput>) : {}) };
  const job = exportJobSchema.parse({
    id: row.id,
    showId: row.showId,
    state: row.state,
    step: row.step,
    progress: row.progress,
    secondsLeft: null,
    error: row.error,
    restarts: row.restarts,
    fileName: filmFileName(document, output),
    output,
    bytes: row.bytes,
    createdAt: row.createdAt.toISOString(),
    copiedTo: row.copiedTo,
    measurement: row.measurement ? (JSON.parse(row.measurement) as unknown) : null,
  });
  return { job, document };
}

/** Of the file that an output is handed over as. */
export const fileEnding = ({ container }: Pick<FilmOutput, "container">): string =>
  isVideo(container) ? container : "zip";

/** "Closing night, Vertical teaser 1080x1920.mp4". */
function filmFileName(document: ShowDocument, output: FilmOutput): string {
  const {
    name,
    size: { width, height },
  } = output;
  const size = width * 9 === height * 16 ? `${height}p` : `${width}x${height}`;
  return `${safeFileName(`${document.title.slice(0, 60)}, ${name}`, "Film")} ${size}.${fileEnding(output)}`;
}

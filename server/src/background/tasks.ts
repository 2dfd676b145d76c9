// Runs on background threads (background.ts): what may take long with a stranger's data, or with
// very much of one's own.
import { readFileSync } from "node:fs";
import { HummingTideError } from "@humming-tide/core";
import { type FilmPlan, factsOf, fitShow, planFilm, planOutput } from "@humming-tide/core/film";
import type { MusicAnalysis } from "@humming-tide/core/music";
import {
  changeText,
  describeChange,
  documentDeltaSchema,
  type FilmOutput,
  hasPicture,
  type ShowDocument,
  showDocumentSchema,
  withDelta,
} from "@humming-tide/core/show";
import type { DataFolder } from "../data-folder.ts";
import { type CheckedDocument, checkedDocument, mediaOf } from "../documents/checked-document.ts";
import { storedExportFacts } from "../documents/export-facts.ts";
import { parseJson, readPacked, readSent, readStored } from "../documents/read-document.ts";
import { type FilmFile, type FilmFileFormat, filmFile } from "../hand-over/film-files.ts";
import { readFacts, type StoredFacts } from "../media/stored-facts.ts";

export interface DescribedRevision {
  readonly changes: readonly string[];
  readonly pictureCount: number;
  /** Null: it can be read. */
  readonly problem: string | null;
}

export interface PlanTask {
  readonly document: ShowDocument;
  /** Null: the show itself. */
  readonly output: FilmOutput | null;
  readonly facts: StoredFacts;
}

/** Each gets and gives plain data, and throws `HummingTideError` or what Zod throws. */
export const tasks = {
  checkSent: (text: Uint8Array): CheckedDocument => checkedDocument(readSent(text)),

  checkStored: (text: string | Uint8Array): CheckedDocument => checkedDocument(readStored(text)),

  /** The document that a page's change leads to, from the one that it was made from. */
  changeStored({ base, delta }: { readonly base: string; readonly delta: Uint8Array }): CheckedDocument {
    const change = documentDeltaSchema.parse(parseJson(delta));
    return checkedDocument(showDocumentSchema.parse(withDelta(readStored(base), change)));
  },

  /** A saved document as the page gets it, with the media that it names. */
  openStored(text: string): Pick<CheckedDocument, "text" | "media"> {
    const document = readStored(text);
    return { text: JSON.stringify(document), media: mediaOf(document) };
  },

  readStored: (text: string): ShowDocument => readStored(text),

  unpack: (packed: Uint8Array): ShowDocument => readPacked(packed),

  exportFacts: storedExportFacts,

  /** Whether a revision can be read. */
  isReadable(packed: Uint8Array): boolean {
    try {
      readPacked(packed);
      return true;
    } catch {
      return false;
    }
  },

  /**
   * Revisions, the newest first, each with what it changed; nothing is said of the last, which only
   * the others are compared with.
   */
  describe(revisions: readonly Uint8Array[]): DescribedRevision[] {
    const documents = revisions.map((packed) => {
      try {
        return readPacked(packed);
      } catch (error) {
        return error as HummingTideError;
      }
    });
    return documents.map((document, index) => {
      if (document instanceof Error) return { changes: [], pictureCount: 0, problem: document.message };
      const previous = documents[index + 1];
      return {
        changes: previous && !(previous instanceof Error) ? describeChange(previous, document).map(changeText) : [],
        pictureCount: document.slides.filter(hasPicture).length,
        problem: null,
      };
    });
  },

  plan: ({ document, output, facts }: PlanTask): FilmPlan => planned(document, output, facts),

  /** Null where there is no film yet. */
  filmSeconds({ document, facts }: PlanTask): number | null {
    try {
      const { totalFrames } = fitShow(document, factsOf(readFacts(facts)));
      return (totalFrames * document.frameRate.den) / document.frameRate.num;
    } catch (error) {
      if (error instanceof HummingTideError) return null;
      throw error;
    }
  },

  filmFile({
    task: { document, output, facts },
    format,
    folder,
    mediaFolder,
  }: {
    readonly task: PlanTask;
    readonly format: FilmFileFormat;
    readonly folder: DataFolder;
    readonly mediaFolder: string;
  }): Promise<FilmFile> {
    return filmFile(document, planned(document, output, facts), format, folder, mediaFolder);
  },

  /** Of the analysis that a file holds; null where it holds none. */
  analysisVersion(path: string): number | null {
    try {
      return (JSON.parse(readFileSync(path, "utf8")) as MusicAnalysis).version;
    } catch {
      return null;
    }
  },
};

export type Tasks = typeof tasks;

function planned(document: ShowDocument, output: FilmOutput | null, facts: StoredFacts): FilmPlan {
  const known = factsOf(readFacts(facts));
  return output ? planOutput(document, output, known) : planFilm(document, known);
}

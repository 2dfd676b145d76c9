import { HummingTideError } from "../failure/index.ts";
import { newShowDocument, SHOW_DOCUMENT_VERSION, type ShowDocument, showDocumentSchema } from "./document.ts";

/** One step a version: what a document of that version lacks for the next. A released step is never edited. */
const STEPS: Readonly<Record<number, (old: Record<string, unknown>) => Record<string, unknown>>> = {
  /** Version 1 had no passages, ratings, captions and turns, and nothing about the event. */
  1: (old) => {
    const fresh = newShowDocument("");
    const passageId = fresh.passages[0]!.id;
    const slides = Array.isArray(old["slides"]) ? (old["slides"] as Record<string, unknown>[]) : [];
    return {
      ...fresh,
      ...old,
      version: 2,
      slides: slides.map((slide) => ({ passageId, caption: "", rating: "keep", hero: false, turn: 0, ...slide })),
    };
  },
};

/**
 * Reads a document of any version that this program ever wrote, as the newest. Throws `document-too-new` for one of a later program, and
 * what Zod throws for anything that is no document.
 */
export function readShowDocument(stored: unknown): ShowDocument {
  let document = stored as Record<string, unknown>;
  for (;;) {
    const version = Number(document?.["version"]);
    if (version > SHOW_DOCUMENT_VERSION) {
      throw new HummingTideError(
        "document-too-new",
        `This show was saved by a newer Humming Tide (document version ${version}, this one reads up to ${SHOW_DOCUMENT_VERSION}). Update the program to open it; nothing was changed.`,
      );
    }
    const step = STEPS[version];
    if (!step) return showDocumentSchema.parse(document);
    document = step(document);
  }
}

import {
  CONTAINER_FACTS,
  type FilmOutput,
  mainOutput,
  SHOW_DOCUMENT_VERSION,
  type ShowDocument,
} from "@humming-tide/core/show";
import { safeFileName } from "../file-names.ts";
import { filmKeyOf } from "./checked-document.ts";
import { readStored } from "./read-document.ts";

/** What is kept beside the document of an export, so that it need not be read to list it. */
export interface ExportFacts {
  readonly filmKey: string;
  readonly fileName: string;
  /** FilmOutput as JSON. */
  readonly output: string;
}

export const exportFacts = (document: ShowDocument, output: FilmOutput): ExportFacts => ({
  filmKey: filmKeyOf(document),
  fileName: filmFileName(document.title, output),
  output: JSON.stringify(output),
});

/**
 * The same of an export that was stored before there were such facts. Outputs of before they had
 * names say less, or nothing: they were as the show itself. Of a document that cannot be read,
 * nothing is known but that a film was made.
 */
export function storedExportFacts({
  text,
  output,
}: {
  readonly text: string;
  readonly output: string | null;
}): ExportFacts {
  const stored = output === null ? {} : (JSON.parse(output) as Partial<FilmOutput>);
  try {
    const document = readStored(text);
    return exportFacts(document, { ...mainOutput(document), ...stored });
  } catch {
    const size = { width: 1920, height: 1080 };
    const unknown: FilmOutput = { ...mainOutput({ size, frameRate: { num: 25, den: 1 } }), ...stored };
    const filmKey = `${SHOW_DOCUMENT_VERSION}:unreadable`;
    return { filmKey, fileName: filmFileName("Film", unknown), output: JSON.stringify(unknown) };
  }
}

/** Of the file that an output is handed over as. */
export const fileEnding = ({ container }: Pick<FilmOutput, "container">): string =>
  CONTAINER_FACTS[container].extension;

/** "Closing night, Vertical teaser 1080x1920.mp4". */
function filmFileName(title: string, output: FilmOutput): string {
  const {
    name,
    size: { width, height },
  } = output;
  const size = width * 9 === height * 16 ? `${height}p` : `${width}x${height}`;
  return `${safeFileName(`${title.slice(0, 60)}, ${name}`, "Film")} ${size}.${fileEnding(output)}`;
}

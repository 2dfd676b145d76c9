import type { Readable } from "node:stream";
import { ZipFile } from "yazl";

/** A zip that is being made, and what it streams meanwhile. */
export interface ZipStream {
  readonly zip: ZipFile;
  readonly content: Readable;
}

/**
 * An empty zip. A file that cannot be read when its turn comes (gone, shorter, a bad disk) ends the
 * stream with its error; by itself it would end the program.
 */
export function openZip(): ZipStream {
  const zip = new ZipFile();
  const content = zip.outputStream as Readable;
  zip.on("error", (error: Error) => content.destroy(error));
  return { zip, content };
}

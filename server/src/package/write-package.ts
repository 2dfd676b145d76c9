import { createHash } from "node:crypto";
import type { Readable } from "node:stream";
import { namedGraphics, namedPictures, namedTakes, type ShowDocument } from "@humming-tide/core/show";
import type { MediaLibrary } from "../media/media-library.ts";
import { openZip } from "../zip-stream.ts";
import { packageError } from "./package-errors.ts";
import {
  CHECKSUMS_FILE,
  DOCUMENT_FILE,
  MANIFEST_FILE,
  MEDIA_FOLDER,
  PACKAGE_FORMAT,
  PACKAGE_VERSION,
  type PackageManifest,
} from "./package-format.ts";

/** The same show gives the same bytes: entries carry one date, the earliest that a zip can hold. */
const ENTRY_DATE = new Date(1980, 0, 1);
const ENTRY = { mtime: ENTRY_DATE, mode: 0o100644, forceDosTimestamp: true } as const;

/**
 * A show with all its media as one zip, streamed: nothing is copied first, memory stays flat. Media
 * are stored as they are. Throws `media-missing`, before a byte is written, where a file of the
 * show is not in the data folder.
 */
export async function writePackage(document: ShowDocument, library: MediaLibrary): Promise<Readable> {
  const media = await mediaOf(document, library);
  const text = Buffer.from(`${JSON.stringify(document, null, 1)}\n`);
  const manifest: PackageManifest = {
    format: PACKAGE_FORMAT,
    version: PACKAGE_VERSION,
    title: document.title,
    documentSha256: sha256Of(text),
    media,
  };
  const manifestText = Buffer.from(`${JSON.stringify(manifest, null, 1)}\n`);
  const sums = [
    `${sha256Of(manifestText)}  ${MANIFEST_FILE}`,
    `${manifest.documentSha256}  ${DOCUMENT_FILE}`,
    ...media.map((file) => `${file.sha256}  ${file.path}`),
  ];
  const { zip, content } = openZip();
  zip.addBuffer(manifestText, MANIFEST_FILE, ENTRY);
  zip.addBuffer(text, DOCUMENT_FILE, ENTRY);
  zip.addBuffer(Buffer.from(`${sums.join("\n")}\n`), CHECKSUMS_FILE, ENTRY);
  for (const file of media)
    zip.addFile(library.store.originalPath(file.sha256), file.path, { ...ENTRY, compress: false });
  zip.end();
  return content;
}

async function mediaOf(document: ShowDocument, library: MediaLibrary): Promise<PackageManifest["media"]> {
  const names = new Map<string, string>();
  const named = [...namedPictures(document), ...namedGraphics(document), ...document.songs, ...namedTakes(document)];
  for (const { sha256, fileName } of named) {
    if (!names.has(sha256)) names.set(sha256, fileName);
  }
  const facts = await library.media.getMany([...names.keys()]);
  const media: PackageManifest["media"] = [];
  for (const [sha256, fileName] of names) {
    const known = facts.get(sha256);
    if (!known || !(await library.store.has(library.store.originalPath(sha256)))) {
      throw packageError("media-missing", { fileName });
    }
    media.push({ path: `${MEDIA_FOLDER}${sha256}`, sha256, bytes: known.bytes, fileName });
  }
  return media;
}

export const sha256Of = (bytes: Uint8Array): string => createHash("sha256").update(bytes).digest("hex");

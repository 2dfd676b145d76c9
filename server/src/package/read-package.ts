import { createHash } from "node:crypto";
import { stat } from "node:fs/promises";
import type { Readable } from "node:stream";
import { promisify } from "node:util";
import { HummingTideError } from "@humming-tide/core";
import { valueFor } from "@humming-tide/core/presence";
import type { ShowDocument } from "@humming-tide/core/show";
import yauzl, { type Entry, type ZipFile } from "yauzl";
import type { Background } from "../background/background.ts";
import type { CheckedDocument, DocumentMedia } from "../documents/checked-document.ts";
import { LARGEST_DOCUMENT_BYTES, parseJson, readStored } from "../documents/read-document.ts";
import type { MediaLibrary } from "../media/media-library.ts";
import type { ShowStore } from "../store/show-store.ts";
import { packageError } from "./package-errors.ts";
import {
  CHECKSUMS_FILE,
  DOCUMENT_FILE,
  MANIFEST_FILE,
  MEDIA_FOLDER,
  manifestSchema,
  PACKAGE_VERSION,
  type PackageManifest,
} from "./package-format.ts";

export interface OpenedShow {
  readonly id: string;
  readonly title: string;
  readonly slideCount: number;
}

/** Of 6,000 media with long names. */
const LARGEST_MANIFEST_BYTES = 4 * 1024 ** 2;
/** Of a text in a package. */
const LARGEST_TEXT_BYTES = LARGEST_DOCUMENT_BYTES;
const LARGEST_ENTRY_COUNT = 6100;

interface OpenOptions {
  readonly path: string;
  readonly bytes: number;
  readonly library: MediaLibrary;
  readonly shows: ShowStore;
  readonly background: Background;
  readonly signal: AbortSignal;
  readonly onProgress: (done: number, total: number) => void;
}

/**
 * Opens a package as a new show. Nothing in it is trusted until it is checked. Names must be those
 * of the layout. Sizes must be as declared, and together no larger than the file. Contents must
 * have their sums. Every medium goes through the same intake as any other file. The show appears
 * only when all of it is there. Throws `package-damaged`, `package-hostile`, `package-too-new`, and
 * what taking in throws.
 */
export async function openPackage(options: OpenOptions): Promise<OpenedShow> {
  const zip = await openZip(options.path);
  try {
    const entries = await listEntries(zip, options.bytes);
    const { manifest, documentText } = await readShowTexts((name) => readText(zip, entries, name));
    const checked = await checkDocument(options.background, documentText);
    checkLayout(entries, manifest, checked.media);
    await takeInMedia(zip, entries, manifest, checked.media, options);
    options.signal.throwIfAborted();
    const { id } = await options.shows.createChecked(checked);
    return { id, title: checked.summary.title, slideCount: checked.summary.slideCount };
  } finally {
    zip.close();
  }
}

/** The document of a package, checked as when it is opened; its media are not looked at. */
export async function readPackedShow(path: string): Promise<ShowDocument> {
  const zip = await openZip(path);
  try {
    const entries = await listEntries(zip, (await stat(path)).size);
    const { documentText } = await readShowTexts((name) => readText(zip, entries, name));
    return readStored(documentText);
  } finally {
    zip.close();
  }
}

async function readShowTexts(
  read: (name: string) => Promise<PackedText>,
): Promise<{ manifest: PackageManifest; documentText: Buffer }> {
  const manifest = readManifest((await read(MANIFEST_FILE)).bytes);
  const document = await read(DOCUMENT_FILE);
  if (document.sha256 !== manifest.documentSha256) throw damaged("the show's document does not have its sum");
  return { manifest, documentText: document.bytes };
}

async function checkDocument(background: Background, text: Buffer): Promise<CheckedDocument> {
  try {
    return await background.run("checkStored", text);
  } catch (cause) {
    if (!(cause instanceof HummingTideError) || cause.code !== "show-damaged") throw cause;
    throw damaged(`"${DOCUMENT_FILE}" is not a show`, cause);
  }
}

const damaged = (why: string, cause?: unknown): HummingTideError => packageError("package-damaged", { why }, { cause });

const hostile = (why: string): HummingTideError => packageError("package-hostile", { why });

async function openZip(path: string): Promise<ZipFile> {
  try {
    return await promisify<string, yauzl.Options, ZipFile>(yauzl.open)(path, {
      lazyEntries: true,
      autoClose: false,
      validateEntrySizes: true,
      strictFileNames: true,
    });
  } catch (cause) {
    throw damaged("it is not a whole zip file", cause);
  }
}

/**
 * All entries by name, refused where a name leads elsewhere, comes twice, or the sizes promise more
 * than the file can hold.
 */
async function listEntries(zip: ZipFile, fileBytes: number): Promise<Map<string, Entry>> {
  if (zip.entryCount > LARGEST_ENTRY_COUNT) throw hostile(`it has ${zip.entryCount} entries`);
  const entries = new Map<string, Entry>();
  let packedBytes = 0;
  await new Promise<void>((resolve, reject) => {
    zip.on("entry", (entry: Entry) => {
      const problem = entryProblem(entry, entries);
      packedBytes += entry.compressedSize;
      if (problem) {
        reject(hostile(problem));
        return;
      }
      if (packedBytes > fileBytes) {
        reject(hostile("its entries lie over one another"));
        return;
      }
      entries.set(entry.fileName, entry);
      zip.readEntry();
    });
    zip.on("end", resolve);
    zip.on("error", (cause: Error) => {
      reject(
        /invalid relative path|absolute path|invalid characters/i.test(cause.message)
          ? hostile(cause.message)
          : damaged(cause.message, cause),
      );
    });
    zip.readEntry();
  });
  return entries;
}

function entryProblem(entry: Entry, known: ReadonlyMap<string, Entry>): string | null {
  const name = entry.fileName;
  if (known.has(name)) return `"${shown(name)}" is in it twice`;
  if (entry.isEncrypted()) return `"${shown(name)}" is encrypted`;
  if (name.startsWith(MEDIA_FOLDER)) {
    if (!/^[0-9a-f]{64}$/.test(name.slice(MEDIA_FOLDER.length))) return `"${shown(name)}" does not belong in it`;
    // Media are stored as they are, so what they unpack to is never more than what they take up.
    if (entry.compressionMethod !== 0 || entry.compressedSize !== entry.uncompressedSize) {
      return `"${shown(name)}" is packed, though media never are`;
    }
    return null;
  }
  if (name !== MANIFEST_FILE && name !== DOCUMENT_FILE && name !== CHECKSUMS_FILE) {
    return `"${shown(name)}" does not belong in it`;
  }
  return entry.uncompressedSize > LARGEST_TEXT_BYTES
    ? `"${name}" would unpack to ${entry.uncompressedSize} bytes`
    : null;
}

const shown = (name: string): string => name.replace(/[\p{C}"]/gu, "?").slice(0, 80);

const streamOf = (zip: ZipFile, entry: Entry): Promise<Readable> =>
  promisify<Entry, Readable>(zip.openReadStream.bind(zip))(entry);

interface PackedText {
  readonly bytes: Buffer;
  readonly sha256: string;
}

async function readText(zip: ZipFile, entries: ReadonlyMap<string, Entry>, name: string): Promise<PackedText> {
  const entry = entries.get(name);
  if (!entry) throw damaged(`"${name}" is missing in it`);
  const chunks: Buffer[] = [];
  // Added up piece by piece: the sum of the largest text at one go would hold the server's thread.
  const hash = createHash("sha256");
  let bytes = 0;
  try {
    // The stream itself breaks off where more comes out than was declared; the limit is a second
    // lock on the same door.
    for await (const chunk of await streamOf(zip, entry)) {
      bytes += (chunk as Buffer).length;
      if (bytes > LARGEST_TEXT_BYTES) throw hostile(`"${name}" unpacks to more than it says`);
      chunks.push(chunk as Buffer);
      hash.update(chunk as Buffer);
    }
  } catch (cause) {
    throw cause instanceof HummingTideError ? cause : damaged((cause as Error).message, cause);
  }
  return { bytes: Buffer.concat(chunks), sha256: hash.digest("hex") };
}

function readManifest(text: Buffer): PackageManifest {
  let version: unknown;
  try {
    const content = parseJson(text, LARGEST_MANIFEST_BYTES) as Record<string, unknown>;
    version = content["version"];
    if (Number(version) > PACKAGE_VERSION) {
      throw packageError("package-too-new", { version: Number(version) });
    }
    return manifestSchema.parse(content);
  } catch (cause) {
    const isTooNew = (cause as { code?: string }).code === "package-too-new";
    throw isTooNew ? cause : damaged(`"${MANIFEST_FILE}" is not as it should be`, cause);
  }
}

/** The manifest, the entries and the document must name exactly the same media. */
function checkLayout(
  entries: ReadonlyMap<string, Entry>,
  manifest: PackageManifest,
  { seen, songs, takes }: DocumentMedia,
): void {
  const listed = new Set(manifest.media.map(({ sha256 }) => sha256));
  for (const file of manifest.media) {
    if (file.path !== `${MEDIA_FOLDER}${file.sha256}`) throw hostile(`"${shown(file.path)}" does not belong in it`);
    const entry = entries.get(file.path);
    if (!entry) throw damaged(`"${file.fileName}" is missing in it`);
    if (entry.uncompressedSize !== file.bytes) throw damaged(`"${file.fileName}" does not have its size`);
  }
  for (const name of entries.keys()) {
    if (name.startsWith(MEDIA_FOLDER) && !listed.has(name.slice(MEDIA_FOLDER.length))) {
      throw hostile(`"${shown(name)}" does not belong in it`);
    }
  }
  const absent = [...seen, ...songs, ...takes].find(({ sha256 }) => !listed.has(sha256));
  if (absent) throw damaged(`"${absent.fileName}" is missing in it`);
}

async function takeInMedia(
  zip: ZipFile,
  entries: ReadonlyMap<string, Entry>,
  manifest: PackageManifest,
  media: DocumentMedia,
  { library, signal, onProgress }: OpenOptions,
): Promise<void> {
  const songs = new Set(media.songs.map(({ sha256 }) => sha256));
  const voices = new Set(media.takes.flatMap(({ sha256 }) => (songs.has(sha256) ? [] : [sha256])));
  const waiting = [...manifest.media];
  let done = 0;
  onProgress(0, manifest.media.length);
  const work = async (): Promise<void> => {
    for (let file = waiting.shift(); file; file = waiting.shift()) {
      signal.throwIfAborted();
      const { sha256, fileName } = file;
      try {
        const stream = await streamOf(zip, valueFor(entries, file.path));
        await library.takeIn(stream, fileName, {
          expectedSha256: sha256,
          wanted: voices.has(sha256) ? "voice" : "any",
          signal,
        });
      } catch (cause) {
        waiting.length = 0;
        if (!(cause instanceof HummingTideError)) throw damaged(`"${fileName}" cannot be read`, cause);
        if (cause.code === "sum-wrong") throw damaged(`"${fileName}" does not have its sum`, cause);
        throw cause;
      }
      onProgress(++done, manifest.media.length);
    }
  };
  // Both have ended before the first failure is told: neither must leave a file behind that is
  // still being received.
  const ended = await Promise.allSettled([work(), work()]);
  const failed = ended.find((one) => one.status === "rejected");
  if (failed) throw failed.reason;
}

import { createHash, randomUUID } from "node:crypto";
import { createWriteStream } from "node:fs";
import { mkdir, open, readdir, rename, rm, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { DataFolder } from "../data-folder.ts";
import { asStorageError } from "../storage-errors.ts";
import { mediaError } from "./media-errors.ts";

/** A file that has arrived but is not yet accepted. */
export interface ReceivedFile {
  readonly path: string;
  readonly sha256: string;
  readonly bytes: number;
}

/** How a stream ends whose sender went away. */
const BROKEN_OFF = new Set(["ECONNRESET", "ERR_STREAM_PREMATURE_CLOSE"]);

const LARGEST_FILE_BYTES = 64 * 1024 ** 3;

/**
 * Originals by content hash: written under a temporary name, synced, then renamed, so a file is
 * whole or not there.
 */
export class ContentStore {
  readonly folder: DataFolder;

  constructor(folder: DataFolder) {
    this.folder = folder;
  }

  /**
   * Streams a file to disk and hashes it on the way; memory stays flat. The caller accepts or
   * discards it.
   */
  async receive(stream: Readable): Promise<ReceivedFile> {
    const temporary = path.join(this.folder.unfinished, randomUUID());
    const hash = createHash("sha256");
    let bytes = 0;
    try {
      await pipeline(
        stream,
        async function* (source: AsyncIterable<Buffer>) {
          for await (const chunk of source) {
            bytes += chunk.length;
            if (bytes > LARGEST_FILE_BYTES) {
              throw mediaError("file-too-large", { mostGigabytes: LARGEST_FILE_BYTES / 1024 ** 3 });
            }
            hash.update(chunk);
            yield chunk;
          }
        },
        createWriteStream(temporary, { flags: "wx" }),
      );
    } catch (error) {
      await rm(temporary, { force: true });
      if (BROKEN_OFF.has(String((error as { code?: string }).code))) {
        throw mediaError("upload-broken-off", {}, { cause: error });
      }
      throw asStorageError(error, "the file could not be taken in");
    }
    return { path: temporary, sha256: hash.digest("hex"), bytes };
  }

  /**
   * Makes a received file permanent; where the same content is there already, the new copy goes.
   */
  async accept(file: ReceivedFile): Promise<string> {
    const place = this.originalPath(file.sha256);
    await mkdir(path.dirname(place), { recursive: true });
    const handle = await open(file.path, "r");
    try {
      await handle.sync();
    } finally {
      await handle.close();
    }
    await rename(file.path, place);
    return place;
  }

  async discard(file: ReceivedFile): Promise<void> {
    await rm(file.path, { force: true });
  }

  /** A place for a file that is being made; what is left there goes with the next start. */
  unfinishedPath(file: string): string {
    return path.join(this.folder.unfinished, file);
  }

  originalPath(sha256: string): string {
    return path.join(this.folder.media, sha256.slice(0, 2), sha256);
  }

  /** What was made of some content; `of` is its hash, or the name of a drawn picture. */
  derivedPath(of: string, file: string): string {
    return path.join(this.folder.derived, of.slice(0, 2), of, file);
  }

  async has(place: string): Promise<boolean> {
    return stat(place).then(
      (facts) => facts.isFile(),
      () => false,
    );
  }

  /**
   * Makes the derived files of some content or drawn picture: `make` writes them into an empty
   * folder, which then takes its place at once. So derived files are all there or none.
   */
  async derive(of: string, make: (folder: string) => Promise<void>): Promise<void> {
    const temporary = path.join(this.folder.unfinished, randomUUID());
    const place = path.join(this.folder.derived, of.slice(0, 2), of);
    await mkdir(temporary, { recursive: true });
    try {
      await make(temporary);
      await syncFiles(temporary);
      await mkdir(path.dirname(place), { recursive: true });
      await replaceFolder(temporary, place);
    } catch (error) {
      await rm(temporary, { recursive: true, force: true });
      throw asStorageError(error, "what the file is shown and heard by could not be made");
    }
  }

  /**
   * Makes some of the derived files of a content, each in the place of an older one; others that
   * were made of it stay. `make` writes them into an empty folder.
   */
  async addDerived(of: string, make: (folder: string) => Promise<void>): Promise<void> {
    const temporary = this.unfinishedPath(randomUUID());
    await mkdir(temporary, { recursive: true });
    try {
      await make(temporary);
      await syncFiles(temporary);
      await mkdir(this.derivedPath(of, ""), { recursive: true });
      for (const name of await readdir(temporary)) await rename(path.join(temporary, name), this.derivedPath(of, name));
    } catch (error) {
      throw asStorageError(error, "what the file is shown and heard by could not be made");
    } finally {
      await rm(temporary, { recursive: true, force: true });
    }
  }

  /**
   * Replaces one file that was derived from a content; whoever reads it meanwhile reads the old or
   * the new one, never a part.
   */
  async replaceDerived(of: string, fileName: string, content: string | Uint8Array): Promise<void> {
    const temporary = path.join(this.folder.unfinished, randomUUID());
    try {
      await writeFile(temporary, content, { flush: true });
      await rename(temporary, this.derivedPath(of, fileName));
    } catch (error) {
      await rm(temporary, { force: true });
      throw asStorageError(error, "what was heard in the song could not be written");
    }
  }
}

/**
 * Writes files through to the disk: a name must never lead to a file that a power cut left empty.
 */
async function syncFiles(folder: string): Promise<void> {
  for (const name of await readdir(folder)) {
    const file = await open(path.join(folder, name), "r+");
    try {
      await file.sync();
    } finally {
      await file.close();
    }
  }
}

/**
 * Moves a folder to its place over an older one. Where another took the place in between, it holds
 * the same: content is its name.
 */
async function replaceFolder(from: string, place: string): Promise<void> {
  await rm(place, { recursive: true, force: true });
  try {
    await rename(from, place);
  } catch (error) {
    const { code } = error as { code?: string };
    if (code !== "ENOTEMPTY" && code !== "EEXIST") throw error;
    await rm(from, { recursive: true, force: true });
  }
}

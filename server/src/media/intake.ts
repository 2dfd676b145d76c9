import type { Readable } from "node:stream";
import type { AnnouncedFile, IntakeFile, MediaFacts } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import type { IntakeStore } from "../store/intake-store.ts";
import type { MediaLibrary } from "./media-library.ts";

/** Reasons to try a file again later: nothing is wrong with the file itself. */
const NOT_THE_FILES_FAULT = new Set([
  "disk-full",
  "folder-gone",
  "folder-read-only",
  "ffmpeg-missing",
  "upload-broken-off",
]);

/**
 * Bringing files into a show: first all are announced, then sent one by one in any order. What was
 * announced is remembered, so bringing in can stop at any moment, by a person or by a crash. When
 * the same files are announced again, it goes on with what is missing.
 */
export class Intake {
  readonly #library: MediaLibrary;
  readonly #files: IntakeStore;

  constructor(library: MediaLibrary, files: IntakeStore) {
    this.#library = library;
    this.#files = files;
  }

  announce(showId: string, files: readonly AnnouncedFile[]): Promise<IntakeFile[]> {
    return this.#files.announce(showId, files);
  }

  waiting(showId: string): Promise<IntakeFile[]> {
    return this.#files.waiting(showId);
  }

  forgetWaiting(showId: string): Promise<void> {
    return this.#files.forgetWaiting(showId);
  }

  /**
   * Takes in the content of an announced file, opened only when someone listens to it. Throws
   * `intake-unknown`, and what the library throws; the reason is remembered with the file.
   */
  async take(showId: string, id: string, open: () => Readable, signal?: AbortSignal): Promise<MediaFacts> {
    const file = await this.#files.get(showId, id);
    try {
      const facts = await this.#library.takeIn(open(), nameOf(file.path), signal ? { signal } : {});
      await this.#files.cameIn(id, facts.sha256);
      return facts;
    } catch (error) {
      if (error instanceof HummingTideError && !NOT_THE_FILES_FAULT.has(error.code)) {
        await this.#files.refused(id, error.message);
      }
      throw error;
    }
  }
}

/**
 * The last part of a path, as the person's machine writes it; at most as long as a document takes.
 */
function nameOf(path: string): string {
  const name = path.split(/[/\\]/).at(-1) ?? "";
  return Array.from(name).slice(0, 500).join("") || "unnamed";
}

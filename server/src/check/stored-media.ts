import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { stat } from "node:fs/promises";
import { pipeline } from "node:stream/promises";
import type { MediaTrouble } from "@humming-tide/core/check";
import type { ShowDocument } from "@humming-tide/core/show";
import { namedGraphics, namedPictures, namedTakes } from "@humming-tide/core/show";
import type { ContentStore } from "../media/content-store.ts";

/**
 * Checks whether the files that shows are made of are still there, with the content that came
 * in.
 */
export class StoredMedia {
  readonly #store: ContentStore;
  /** Files whose content was right: while size and time stay, they are not read again. */
  readonly #right = new Map<string, string>();

  constructor(store: ContentStore) {
    this.#store = store;
  }

  /**
   * What is wrong, by content hash. Reads every file that is new to it. Throws the signal's reason.
   */
  async look(
    hashes: readonly string[],
    signal: AbortSignal,
    onProgress: (share: number) => void,
  ): Promise<Map<string, MediaTrouble>> {
    const trouble = new Map<string, MediaTrouble>();
    for (const [index, sha256] of hashes.entries()) {
      signal.throwIfAborted();
      const found = await this.#troubleOf(sha256, signal);
      if (found) trouble.set(sha256, found);
      onProgress((index + 1) / hashes.length);
    }
    return trouble;
  }

  async #troubleOf(sha256: string, signal: AbortSignal): Promise<MediaTrouble | null> {
    const place = this.#store.originalPath(sha256);
    const facts = await stat(place).catch(() => null);
    if (!facts?.isFile()) return "missing";
    const state = `${facts.size} ${facts.mtimeMs} ${facts.ino}`;
    if (this.#right.get(sha256) === state) return null;
    const hash = createHash("sha256");
    try {
      await pipeline(createReadStream(place, { signal }), hash);
    } catch (error) {
      signal.throwIfAborted();
      // Unreadable: as good as gone.
      if ((error as { code?: string }).code) return "missing";
      throw error;
    }
    if (hash.digest("hex") !== sha256) return "changed";
    this.#right.set(sha256, state);
    return null;
  }
}

/** Content of all files that a show is made of, each once. */
export const filesOf = (document: ShowDocument): string[] => [
  ...new Set(
    [...namedPictures(document), ...namedGraphics(document), ...document.songs, ...namedTakes(document)].map(
      ({ sha256 }) => sha256,
    ),
  ),
];

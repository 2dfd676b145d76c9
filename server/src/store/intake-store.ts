import { randomUUID } from "node:crypto";
import type { AnnouncedFile, IntakeFile } from "@humming-tide/contract";
import { valueFor } from "@humming-tide/core/presence";
import { asStorageError } from "../storage-errors.ts";
import type { StudioDatabase } from "./database.ts";
import type { MediaStore } from "./media-store.ts";
import { storeError } from "./store-errors.ts";
import type { IntakeRow } from "./tables/media-tables.ts";

/**
 * What was announced for each show and what came of it, so that bringing in can stop and go on: a
 * file is the same when path, size and time of change are.
 */
export class IntakeStore {
  readonly #database: StudioDatabase;
  readonly #media: MediaStore;

  constructor(database: StudioDatabase, media: MediaStore) {
    this.#database = database;
    this.#media = media;
  }

  /**
   * Notes files and says what is known of each, in the order given. What came in before comes with
   * its facts.
   */
  async announce(showId: string, files: readonly AnnouncedFile[]): Promise<IntakeFile[]> {
    const known = new Map(
      (await this.#database.intakeFiles.findAll({ where: { showId } })).map((row) => [keyOf(row), row]),
    );
    const fresh: AnnouncedFile[] = [];
    const seen = new Set<string>();
    for (const file of files) {
      const key = keyOf(file);
      if (known.has(key) || seen.has(key)) continue;
      seen.add(key);
      fresh.push(file);
    }
    try {
      await this.#database.intakeFiles.bulkCreate(
        fresh.map((file) => ({ ...file, id: randomUUID(), showId, state: "waiting", sha256: null, message: null })),
        // Another window may announce the same files at the same time: whoever is first gives them
        // their ids.
        { ignoreDuplicates: true },
      );
      for (const row of await this.#database.intakeFiles.findAll({ where: { showId } })) known.set(keyOf(row), row);
    } catch (error) {
      throw asStorageError(error, "the list of files could not be saved");
    }
    const rows = files.map((file) => valueFor(known, keyOf(file)));
    return this.#withFacts(rows);
  }

  /** The announced files that have not come in yet. */
  async waiting(showId: string): Promise<IntakeFile[]> {
    return this.#withFacts(
      await this.#database.intakeFiles.findAll({ where: { showId, state: "waiting" }, order: [["path", "ASC"]] }),
    );
  }

  async forgetWaiting(showId: string): Promise<void> {
    await this.#database.intakeFiles.destroy({ where: { showId, state: "waiting" } });
  }

  /** Throws `intake-unknown`. */
  async get(showId: string, id: string): Promise<AnnouncedFile> {
    const row = await this.#database.intakeFiles.findOne({ where: { id, showId } });
    if (!row) {
      throw storeError("intake-unknown");
    }
    return { path: row.path, bytes: row.bytes, modifiedMs: row.modifiedMs };
  }

  async cameIn(id: string, sha256: string): Promise<void> {
    await this.#database.intakeFiles.update({ state: "in", sha256, message: null }, { where: { id } });
  }

  async refused(id: string, message: string): Promise<void> {
    await this.#database.intakeFiles.update({ state: "refused", message }, { where: { id } });
  }

  async #withFacts(rows: readonly IntakeRow[]): Promise<IntakeFile[]> {
    const facts = await this.#media.getMany(rows.flatMap(({ sha256 }) => sha256 ?? []));
    return rows.map((row) => {
      const own = row.sha256 === null ? undefined : facts.get(row.sha256);
      const state = row.state === "refused" ? "refused" : own ? "in" : "waiting";
      const { id, path, bytes, modifiedMs, message } = row;
      return { id, path, bytes, modifiedMs, state, message, facts: own ?? null };
    });
  }
}

const keyOf = ({ path, bytes, modifiedMs }: AnnouncedFile): string => `${bytes} ${modifiedMs} ${path}`;

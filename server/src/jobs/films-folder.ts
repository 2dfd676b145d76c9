import { randomUUID } from "node:crypto";
import { constants } from "node:fs";
import { access, copyFile, link, rename, rm, stat } from "node:fs/promises";
import path from "node:path";
import type { HummingTideError } from "@humming-tide/core";
import { asStorageError } from "../storage-errors.ts";
import type { PreferenceStore } from "../store/preference-store.ts";
import { jobError } from "./job-errors.ts";

/** Most films of one name in a folder. */
const MOST_COPIES = 1000;

/** The folder for people that finished films are put into. */
export class FilmsFolder {
  readonly #preferences: PreferenceStore;

  constructor(preferences: PreferenceStore) {
    this.#preferences = preferences;
  }

  /** Null where none was chosen. */
  get(): Promise<string | null> {
    return this.#preferences.filmsFolder();
  }

  /**
   * Chooses the folder; null: none. Throws `films-folder` for what is no folder that can be written
   * to. It is never made: a misspelt path would be a folder nobody finds.
   */
  async choose(folder: string | null): Promise<void> {
    if (folder !== null) {
      if (!path.isAbsolute(folder))
        throw refused(folder, `it has to be a whole path, as "${path.join(path.parse(process.cwd()).root, "films")}"`);
      const facts = await stat(folder).catch(() => null);
      if (!facts?.isDirectory()) throw refused(folder, "there is no such folder on this machine. Make it first");
      await access(folder, constants.W_OK).catch(() => {
        throw refused(folder, "it cannot be written to");
      });
    }
    await this.#preferences.setFilmsFolder(folder && path.normalize(folder));
  }

  /**
   * Puts a copy of a finished film into the folder under its own name, beside what is there: a
   * second one is called "… 2". It has that name only when it is whole. Where that fails,
   * `problem` says so for people, and the film stays in the data folder.
   */
  async put(
    filmPath: string,
    fileName: string,
  ): Promise<{ readonly copiedTo: string | null; readonly problem: string | null }> {
    const folder = await this.get();
    if (folder === null) return { copiedTo: null, problem: null };
    const unfinished = path.join(folder, `.unfinished-${randomUUID()}`);
    try {
      // Where the disk can, it shares the content until one of both is changed.
      await copyFile(filmPath, unfinished, constants.COPYFILE_EXCL | constants.COPYFILE_FICLONE);
      return { copiedTo: await named(unfinished, folder, path.parse(fileName)), problem: null };
    } catch (error) {
      const isGone = (error as { code?: string }).code === "ENOENT";
      const { message } = isGone
        ? new Error("the folder is not there any more. Choose another.")
        : (asStorageError(error, "the copy was not written there") as Error);
      return { copiedTo: null, problem: `Done, and here to download, but not put into "${folder}": ${message}` };
    } finally {
      await rm(unfinished, { force: true });
    }
  }
}

const refused = (folder: string, why: string): HummingTideError => jobError("films-folder", { folder, why });

/** Gives a file the first free name. */
async function named(file: string, folder: string, { name, ext }: path.ParsedPath): Promise<string> {
  for (let count = 1; count <= MOST_COPIES; count++) {
    const place = path.join(folder, count === 1 ? `${name}${ext}` : `${name} ${count}${ext}`);
    try {
      await link(file, place);
      return place;
    } catch (error) {
      const { code } = error as { code?: string };
      if (code === "EEXIST") continue;
      // A disk without hard links: nobody else is expected to take the name between both steps.
      if (await stat(place).catch(() => null)) continue;
      await rename(file, place);
      return place;
    }
  }
  throw new Error("there are too many films of that name");
}

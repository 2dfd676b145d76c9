import { mkdir, readdir, rm } from "node:fs/promises";
import path from "node:path";

/**
 * Where everything of one studio lies. Nothing outside this folder is ever written, except where a
 * person says so.
 */
export interface DataFolder {
  readonly root: string;
  readonly database: string;
  /** Originals by content hash, never changed. */
  readonly media: string;
  /** What was made from originals: can be made again at any time. */
  readonly derived: string;
  readonly exports: string;
  /** Files being written. What a crash left behind goes at the next start. */
  readonly unfinished: string;
}

export function dataFolderAt(root: string): DataFolder {
  return {
    root,
    database: path.join(root, "humming-tide.sqlite"),
    media: path.join(root, "media"),
    derived: path.join(root, "derived"),
    exports: path.join(root, "exports"),
    unfinished: path.join(root, "unfinished"),
  };
}

/**
 * Makes what is missing of a data folder and clears away what was left unfinished. Only its owner
 * may call this.
 */
export async function prepareDataFolder(folder: DataFolder): Promise<void> {
  for (const place of [folder.media, folder.derived, folder.exports, folder.unfinished])
    await mkdir(place, { recursive: true });
  for (const name of await readdir(folder.unfinished))
    await rm(path.join(folder.unfinished, name), { recursive: true, force: true });
}

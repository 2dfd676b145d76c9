import { mkdir, rm } from "node:fs/promises";
import path from "node:path";

/** Where everything of one studio lies. Nothing outside this folder is ever written, except where a person says so. */
export interface DataFolder {
  readonly root: string;
  readonly database: string;
  /** Originals by content hash, never changed. */
  readonly media: string;
  /** What was made from originals: can be made again at any time. */
  readonly derived: string;
  readonly exports: string;
  /** Files being written. Emptied at every start. */
  readonly unfinished: string;
}

export async function openDataFolder(root: string): Promise<DataFolder> {
  const folder: DataFolder = {
    root,
    database: path.join(root, "humming-tide.sqlite"),
    media: path.join(root, "media"),
    derived: path.join(root, "derived"),
    exports: path.join(root, "exports"),
    unfinished: path.join(root, "unfinished"),
  };
  await rm(folder.unfinished, { recursive: true, force: true });
  for (const place of [folder.media, folder.derived, folder.exports, folder.unfinished]) {
    await mkdir(place, { recursive: true });
  }
  return folder;
}

import { mkdir, readdir, rm } from "node:fs/promises";
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
  /** Files being written by this process. What processes that are gone left behind goes at every start. */
  readonly unfinished: string;
}

export async function openDataFolder(root: string): Promise<DataFolder> {
  const folder: DataFolder = {
    root,
    database: path.join(root, "humming-tide.sqlite"),
    media: path.join(root, "media"),
    derived: path.join(root, "derived"),
    exports: path.join(root, "exports"),
    unfinished: path.join(root, "unfinished", String(process.pid)),
  };
  await removeLeftOvers(path.join(root, "unfinished"));
  for (const place of [folder.media, folder.derived, folder.exports, folder.unfinished]) {
    await mkdir(place, { recursive: true });
  }
  return folder;
}

/** A command may work on a data folder that a server serves: each has a folder named by its process, and only the dead are cleared away. */
async function removeLeftOvers(unfinished: string): Promise<void> {
  for (const name of await readdir(unfinished).catch(() => [])) {
    if (name !== String(process.pid) && isRunning(Number(name))) continue;
    await rm(path.join(unfinished, name), { recursive: true, force: true });
  }
}

function isRunning(processId: number): boolean {
  if (!Number.isInteger(processId) || processId <= 0) return false;
  try {
    process.kill(processId, 0);
    return true;
  } catch (error) {
    // A process of another user is one all the same.
    return (error as { code?: string }).code === "EPERM";
  }
}

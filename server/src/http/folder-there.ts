import { statSync } from "node:fs";
import { stat } from "node:fs/promises";
import type { RequestHandler } from "express";
import type { DataFolder } from "../data-folder.ts";
import { machineError } from "../machine-errors.ts";

const READING = new Set(["GET", "HEAD"]);

/**
 * Refuses to change anything while the data folder is not the one that was opened: a disk was taken
 * out, or the folder moved. The database would go on in a file that has no name any more, and
 * everything would be lost with the program's end.
 */
export function refuseWithoutFolder({ database, root }: DataFolder): RequestHandler {
  const opened = statSync(database, { bigint: true }).ino;
  return async (request, _response, next) => {
    if (READING.has(request.method)) {
      next();
      return;
    }
    const facts = await stat(database, { bigint: true }).catch(() => null);
    if (facts?.ino !== opened) throw machineError("folder-gone", { folder: root, doing: "nothing can be saved" });
    next();
  };
}

import { HummingTideError } from "@humming-tide/core";

type Trouble = "disk-full" | "folder-read-only" | "folder-gone" | "database-damaged";

/** What codes of the operating system and of the database mean for a person. */
const TROUBLE_OF: Readonly<Record<string, Trouble>> = {
  ENOSPC: "disk-full",
  EDQUOT: "disk-full",
  SQLITE_FULL: "disk-full",
  EROFS: "folder-read-only",
  EACCES: "folder-read-only",
  EPERM: "folder-read-only",
  SQLITE_READONLY: "folder-read-only",
  SQLITE_CANTOPEN: "folder-gone",
  SQLITE_IOERR: "folder-gone",
  EIO: "folder-gone",
  SQLITE_CORRUPT: "database-damaged",
  SQLITE_NOTADB: "database-damaged",
};

const DEEPEST_CAUSE = 5;

/** The trouble inside an error or its causes; null where it is something else. */
function troubleIn(error: unknown): Trouble | null {
  let at: unknown = error;
  for (let depth = 0; at && depth < DEEPEST_CAUSE; depth++) {
    const { code, cause, parent } = at as Record<"code" | "cause" | "parent", unknown>;
    const message = at instanceof Error ? at.message : "";
    if (typeof code === "string" && Object.hasOwn(TROUBLE_OF, code)) return TROUBLE_OF[code]!;
    const named = /\bSQLITE_[A-Z]+/.exec(message)?.[0];
    if (named !== undefined && Object.hasOwn(TROUBLE_OF, named)) return TROUBLE_OF[named]!;
    if (/no space left on device|database or disk is full/i.test(message)) return "disk-full";
    at = cause ?? parent;
  }
  return null;
}

const TEXTS: Readonly<Record<Trouble, (doing: string) => string>> = {
  "disk-full": (doing) =>
    `The disk is full: ${doing}. What was saved before is kept. Make room on the disk, then try again.`,
  "folder-read-only": (doing) =>
    `The folder cannot be written to: ${doing}. What was saved before is kept. Make the folder ` +
    "writable, then try again.",
  "folder-gone": (doing) =>
    `The data folder cannot be reached: ${doing}. Its disk may have been taken out. Connect it ` +
    "again, then restart the program.",
  "database-damaged": (doing) =>
    `The database of the data folder is damaged: ${doing}. Stop the program and put back a copy ` +
    "of the data folder from before.",
};

/**
 * Turns trouble with a disk or a folder into words; gives every other error back as it is. `doing`
 * says in a whole clause what did not happen, for example "the show could not be saved". Codes:
 * `disk-full`, `folder-read-only`, `folder-gone`, `database-damaged`.
 */
export function asStorageError(error: unknown, doing: string): unknown {
  if (error instanceof HummingTideError && Object.hasOwn(TEXTS, error.code)) return error;
  const trouble = troubleIn(error);
  return trouble === null ? error : new HummingTideError(trouble, TEXTS[trouble](doing), { cause: error });
}

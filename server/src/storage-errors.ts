import { HummingTideError } from "@humming-tide/core";
import { present } from "@humming-tide/core/presence";
import { machineError } from "./machine-errors.ts";

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

const TROUBLES: ReadonlySet<string> = new Set(Object.values(TROUBLE_OF));

const DEEPEST_CAUSE = 5;

/** The trouble inside an error or its causes; null where it is something else. */
function troubleIn(error: unknown): Trouble | null {
  let at: unknown = error;
  for (let depth = 0; at && depth < DEEPEST_CAUSE; depth++) {
    const { code, cause, parent } = at as Record<"code" | "cause" | "parent", unknown>;
    const message = at instanceof Error ? at.message : "";
    if (typeof code === "string" && Object.hasOwn(TROUBLE_OF, code)) return present(TROUBLE_OF[code]);
    const named = /\bSQLITE_[A-Z]+/.exec(message)?.[0];
    if (named !== undefined && Object.hasOwn(TROUBLE_OF, named)) return present(TROUBLE_OF[named]);
    if (/no space left on device|database or disk is full/i.test(message)) return "disk-full";
    at = cause ?? parent;
  }
  return null;
}

/**
 * Turns trouble with a disk or a folder into words; gives every other error back as it is. `doing`
 * says in a whole clause what did not happen, for example "the show could not be saved". Codes:
 * `disk-full`, `folder-read-only`, `folder-gone`, `database-damaged`.
 */
export function asStorageError(error: unknown, doing: string): unknown {
  if (error instanceof HummingTideError && TROUBLES.has(error.code)) return error;
  const trouble = troubleIn(error);
  switch (trouble) {
    case null:
      return error;
    case "folder-gone":
      return machineError(trouble, { folder: null, doing }, { cause: error });
    case "database-damaged":
      return machineError(trouble, { file: null, why: doing }, { cause: error });
    case "disk-full":
    case "folder-read-only":
      return machineError(trouble, { doing }, { cause: error });
  }
}

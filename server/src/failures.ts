import { HummingTideError } from "@humming-tide/core";

/** The error code of the operating system inside an error or its causes, for example ENOSPC; null where there is none. */
function systemCode(error: unknown): string | null {
  for (let at: unknown = error, depth = 0; at && depth < 5; depth++) {
    const code = (at as { code?: unknown }).code;
    if (typeof code === "string" && /^E[A-Z0-9]+$/.test(code)) return code;
    at = (at as { cause?: unknown; parent?: unknown }).cause ?? (at as { parent?: unknown }).parent;
  }
  return /no space left on device|database or disk is full|SQLITE_FULL/i.test(String((error as Error)?.message))
    ? "ENOSPC"
    : null;
}

/** Turns a full disk into words; gives every other error back as it is. `doing` completes "The disk is full: …". */
export function sayDiskFull(error: unknown, doing: string): unknown {
  const code = systemCode(error);
  if (code !== "ENOSPC" && code !== "EDQUOT") return error;
  return new HummingTideError(
    "disk-full",
    `The disk is full: ${doing}. Nothing that was there before is lost. Make room and try again.`,
    {
      cause: error,
    },
  );
}

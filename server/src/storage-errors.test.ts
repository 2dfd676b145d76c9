import { HummingTideError } from "@humming-tide/core";
import { describe, expect, it } from "vitest";
import { jobError } from "./jobs/job-errors.ts";
import { asStorageError } from "./storage-errors.ts";

const withCode = (code: string, message = "x"): Error => Object.assign(new Error(message), { code });

describe("trouble with a disk or a folder", () => {
  // Codes of errno(3) and of SQLite's result codes (sqlite.org/rescode.html).
  it.each([
    ["disk-full", withCode("ENOSPC")],
    ["disk-full", withCode("EDQUOT")],
    ["disk-full", new Error("SQLITE_FULL: database or disk is full")],
    ["disk-full", new Error("wrapped", { cause: withCode("ENOSPC") })],
    ["disk-full", Object.assign(new Error("database"), { parent: withCode("SQLITE_FULL") })],
    ["folder-read-only", withCode("EROFS")],
    ["folder-read-only", withCode("EACCES")],
    ["folder-read-only", new Error("SQLITE_READONLY: attempt to write a readonly database")],
    ["folder-gone", new Error("SQLITE_CANTOPEN: unable to open database file")],
    ["folder-gone", new Error("SQLITE_IOERR: disk I/O error")],
    ["database-damaged", new Error("SQLITE_CORRUPT: database disk image is malformed")],
    ["database-damaged", new Error("SQLITE_NOTADB: file is not a database")],
  ])("is %s, in a sentence that says what did not happen and what to do", (code, error) => {
    const told = asStorageError(error, "the show could not be saved") as HummingTideError;
    expect(told).toBeInstanceOf(HummingTideError);
    expect(told.code).toBe(code);
    expect(told.message).toMatch(/: the show could not be saved\. [A-Z].*\.$/);
    expect(told.message).not.toMatch(/SQLITE|E[A-Z]{4}/);
    // Said once, it is not said again in other words.
    expect(asStorageError(told, "something else")).toBe(told);
  });

  it("leaves every other error as it is", () => {
    for (const error of [new Error("a bug"), withCode("ENOENT"), jobError("closed"), "text", null])
      expect(asStorageError(error, "x")).toBe(error);
  });
});

import { open, readdir, stat } from "node:fs/promises";
import path from "node:path";
import type { HummingTideError } from "@humming-tide/core";
import { QueryTypes, type Sequelize } from "sequelize";
import { machineError } from "../machine-errors.ts";

/** The first bytes of every SQLite database (sqlite.org/fileformat.html, 1.3). */
const MAGIC = "SQLite format 3\0";
const HEADER_BYTES = 100;

/**
 * Checks a database file before it is opened. SQLite takes an empty file for a new
 * database: where media are there already, somebody emptied it, and the shelf would be empty
 * without a word. Throws `database-empty` and `database-damaged`.
 */
export async function checkDatabaseFile(file: string): Promise<void> {
  const facts = await stat(file).catch(() => null);
  if (facts === null) return;
  if (facts.isFile() && facts.size === 0) {
    const media = await readdir(path.join(path.dirname(file), "media")).catch(() => []);
    if (media.length === 0) return;
    throw machineError("database-empty", { file });
  }
  const handle = await open(file, "r");
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(HEADER_BYTES), 0, HEADER_BYTES, 0);
    if (buffer.toString("latin1", 0, MAGIC.length) !== MAGIC) throw damaged(file, "it begins with something else");
    if (bytesRead < HEADER_BYTES) throw damaged(file, `it ends after ${bytesRead} bytes`);
  } finally {
    await handle.close();
  }
}

/**
 * Checks whether all pages of an opened database are there and hang together. Reads the whole
 * file. Throws `database-damaged`.
 */
export async function checkDatabase(database: Sequelize): Promise<void> {
  const file = (database as unknown as { readonly options: { readonly storage: string } }).options.storage;
  let problem: string;
  try {
    const [row] = await database.query<{ quick_check: string }>("PRAGMA quick_check(1)", { type: QueryTypes.SELECT });
    problem = row?.quick_check ?? "it gives no answer";
  } catch (error) {
    const { message } = error as Error;
    if (!/SQLITE_(CORRUPT|NOTADB)/.test(message)) throw error;
    problem = message.replace(/^SQLITE_\w+: /, "");
  }
  if (problem !== "ok") throw damaged(file, problem.replace(/\s+/g, " "));
}

const damaged = (file: string, why: string): HummingTideError => machineError("database-damaged", { file, why });

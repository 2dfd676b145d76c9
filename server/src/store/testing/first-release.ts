import { mkdir } from "node:fs/promises";
import path from "node:path";
import { newShowDocument } from "@humming-tide/core/show";
import sqlite3 from "sqlite3";

/** Runs statements on a database file, as a program outside would. */
export function statements(file: string, ...sql: string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const database = new sqlite3.Database(file);
    database.exec(sql.join(";\n"), (error) => {
      database.close();
      if (error) reject(error);
      else resolve();
    });
  });
}

export const OLD_SHOW = "00000000-0000-4000-8000-000000000001";
export const OLD_MEDIUM = "ab".repeat(32);

/**
 * Writes a data folder as the first release left it: one show of two revisions, and one picture
 * without its file.
 */
export async function writeFirstRelease(data: string): Promise<void> {
  await mkdir(data, { recursive: true });
  // A data folder as the first release left it: layout 001, documents of version 1.
  const { frameRate, size, pace, seed } = newShowDocument("Old show");
  const old = (title: string): string =>
    JSON.stringify({
      ...{ frameRate, size, pace, seed, version: 1 },
      title,
      slides: [{ id: "a", sha256: OLD_MEDIUM, fileName: "a.jpg", landingLockSeconds: null }],
    });
  const now = "'2026-10-01 10:00:00.000 +00:00'";
  await statements(
    path.join(data, "humming-tide.sqlite"),
    "CREATE TABLE SequelizeMeta (name VARCHAR(255) PRIMARY KEY)",
    "INSERT INTO SequelizeMeta VALUES ('001-first-layout')",
    `CREATE TABLE shows (id TEXT PRIMARY KEY, revision INTEGER NOT NULL, document TEXT NOT NULL, created_at DATETIME NOT NULL, updated_at DATETIME NOT NULL)`,
    `CREATE TABLE show_revisions (show_id TEXT NOT NULL REFERENCES shows(id), revision INTEGER NOT NULL, document TEXT NOT NULL, created_at DATETIME NOT NULL, PRIMARY KEY (show_id, revision))`,
    "CREATE TABLE media (sha256 TEXT PRIMARY KEY, facts TEXT NOT NULL, created_at DATETIME NOT NULL)",
    `CREATE TABLE exports (id TEXT PRIMARY KEY, show_id TEXT NOT NULL REFERENCES shows(id), state TEXT NOT NULL, document TEXT NOT NULL, progress REAL NOT NULL, step TEXT NOT NULL, error TEXT, restarts INTEGER NOT NULL, bytes INTEGER, measurement TEXT, created_at DATETIME NOT NULL)`,
    `INSERT INTO shows VALUES ('${OLD_SHOW}', 2, '${old("Second")}', ${now}, ${now})`,
    `INSERT INTO show_revisions VALUES ('${OLD_SHOW}', 1, '${old("First")}', ${now})`,
    `INSERT INTO show_revisions VALUES ('${OLD_SHOW}', 2, '${old("Second")}', ${now})`,
    `INSERT INTO media VALUES ('${OLD_MEDIUM}', '{"kind":"picture","sha256":"${OLD_MEDIUM}","fileName":"a.jpg","bytes":1,"mime":"image/jpeg","width":3,"height":2,"capturedAt":null}', ${now})`,
  );
}

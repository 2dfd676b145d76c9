import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { setTimeout } from "node:timers/promises";
import type { HummingTideError } from "@humming-tide/core";
import sqlite3 from "sqlite3";
import { machineError } from "../machine-errors.ts";

const LOCK_FILE = "owner.lock";
const OWNER_FILE = "owner.json";

/** A program that is just ending gets this long before it counts as the owner. */
const TRIES = 20;
const TRY_EVERY_MS = 100;

/** Who has the folder, for people to read: the lock itself is the system's. */
interface Owner {
  readonly processId: number;
  readonly since: string;
  /** Of the studio's server; null for a command. */
  readonly address: string | null;
}

export interface FolderLock {
  /** Tells others where the server that has the folder answers. */
  setAddress(address: string): Promise<void>;
  release(): Promise<void>;
}

/**
 * Takes a data folder for this process alone. The lock is an exclusive one on a small database: the
 * system gives it back when the process ends, however it ends, so no crash leaves a stale one.
 * Throws `folder-in-use` with who has it.
 */
export async function lockFolder(root: string): Promise<FolderLock> {
  const database = await openLockFile(path.join(root, LOCK_FILE));
  try {
    for (let left = TRIES; !(await takeLock(database)); left--) {
      if (left === 0) throw inUse(root, await readOwner(root));
      await setTimeout(TRY_EVERY_MS);
    }
  } catch (error) {
    await close(database);
    throw error;
  }
  const owner: Owner = { processId: process.pid, since: new Date().toISOString(), address: null };
  const write = (facts: Owner): Promise<void> =>
    writeFile(path.join(root, OWNER_FILE), `${JSON.stringify(facts)}\n`).catch(() => undefined);
  await write(owner);
  return { setAddress: (address) => write({ ...owner, address }), release: () => close(database) };
}

function openLockFile(file: string): Promise<sqlite3.Database> {
  return new Promise((resolve, reject) => {
    const database: sqlite3.Database = new sqlite3.Database(file, (error) => {
      if (error) reject(error);
      else {
        // It is we who wait and try again, so that the wait has one length.
        database.configure("busyTimeout", 0);
        resolve(database);
      }
    });
  });
}

/** Returns whether the lock is ours now. */
function takeLock(database: sqlite3.Database): Promise<boolean> {
  return new Promise((resolve, reject) => {
    database.exec("BEGIN EXCLUSIVE", (error) => {
      if (error && (error as { code?: string }).code !== "SQLITE_BUSY") reject(error);
      else resolve(error === null);
    });
  });
}

const close = (database: sqlite3.Database): Promise<void> => new Promise((resolve) => database.close(() => resolve()));

async function readOwner(root: string): Promise<Owner | null> {
  try {
    return JSON.parse(await readFile(path.join(root, OWNER_FILE), "utf8")) as Owner;
  } catch {
    return null;
  }
}

function inUse(root: string, owner: Owner | null): HummingTideError {
  const who = owner ? ` (process ${owner.processId}, since ${owner.since})` : "";
  const work = owner?.address
    ? `a Humming Tide server at ${owner.address}${who}. Work there, or stop it first`
    : `another Humming Tide program${who}. Wait until it has ended, or stop it`;
  return machineError("folder-in-use", { folder: root, user: work });
}

import { spawn, spawnSync } from "node:child_process";
import { once } from "node:events";
import { mkdir, readFile, truncate, writeFile } from "node:fs/promises";
import path from "node:path";
import { itemAt } from "@humming-tide/core/presence";
import sqlite3 from "sqlite3";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openStudio } from "../start-server.ts";
import { temporaryFolder } from "../testing/index.ts";
import { builtProgram } from "../workers/built-program.ts";
import { migrations } from "./migrations.ts";
import { writeFirstRelease } from "./testing/first-release.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
beforeAll(async () => {
  place = await temporaryFolder();
});
afterAll(() => place.remove());

const databaseOf = (data: string): string => path.join(data, "humming-tide.sqlite");

async function onFile<T>(file: string, work: (database: sqlite3.Database) => Promise<T>): Promise<T> {
  const database = new sqlite3.Database(file);
  try {
    return await work(database);
  } finally {
    await new Promise((resolve) => database.close(resolve));
  }
}

const execute = (file: string, sql: string): Promise<void> =>
  onFile(file, (database) => new Promise((resolve, reject) => database.exec(sql, (e) => (e ? reject(e) : resolve()))));

const rows = <Row>(file: string, sql: string): Promise<Row[]> =>
  onFile(
    file,
    (database) => new Promise((resolve, reject) => database.all<Row>(sql, (e, r) => (e ? reject(e) : resolve(r)))),
  );

/** The layout as SQLite itself keeps it. */
const layoutOf = async (data: string): Promise<string[]> =>
  (await rows<{ sql: string | null }>(databaseOf(data), "SELECT sql FROM sqlite_master WHERE name <> 'SequelizeMeta'"))
    .flatMap(({ sql }) => sql?.replace(/\s+/g, " ") ?? [])
    .sort();

async function openAndClose(data: string): Promise<void> {
  const studio = await openStudio(data);
  await studio.shows.create("Regatta");
  await studio.close();
}

describe("a data folder that a kill left half upgraded", () => {
  it("opens with the same layout as a fresh one, wherever the earlier releases were stopped", async () => {
    const fresh = path.join(place.folder, "fresh");
    await openAndClose(fresh);
    const wanted = await layoutOf(fresh);
    // The statements of a fresh start, as SQLite keeps them: after each of them the first release
    // could be killed.
    const first = [
      "CREATE TABLE shows (id TEXT PRIMARY KEY, revision INTEGER NOT NULL, document TEXT NOT NULL, created_at DATETIME NOT NULL, updated_at DATETIME NOT NULL)",
      "CREATE TABLE show_revisions (show_id TEXT NOT NULL REFERENCES shows(id), revision INTEGER NOT NULL, document TEXT NOT NULL, created_at DATETIME NOT NULL, PRIMARY KEY (show_id, revision))",
      "CREATE TABLE media (sha256 TEXT PRIMARY KEY, facts TEXT NOT NULL, created_at DATETIME NOT NULL)",
      "CREATE TABLE exports (id TEXT PRIMARY KEY, show_id TEXT NOT NULL REFERENCES shows(id), state TEXT NOT NULL, document TEXT NOT NULL, progress REAL NOT NULL, step TEXT NOT NULL, error TEXT, restarts INTEGER NOT NULL, bytes INTEGER, measurement TEXT, created_at DATETIME NOT NULL)",
      "CREATE INDEX exports_by_show ON exports (show_id, created_at)",
    ];
    for (let count = 0; count <= first.length; count++) {
      const data = path.join(place.folder, `statements-${count}`);
      await mkdir(data);
      await execute(
        databaseOf(data),
        ["CREATE TABLE `SequelizeMeta` (`name` VARCHAR(255))", ...first.slice(0, count)].join(";"),
      );
      await openAndClose(data);
      expect([count, plain(await layoutOf(data))]).toEqual([count, plain(wanted)]);
    }
    // Later ones ran whole, but a kill could come before they were listed.
    for (let listed = 0; listed < migrations.length; listed++) {
      const data = path.join(place.folder, `listed-${listed}`);
      await openAndClose(data);
      const last = migrations.slice(listed + 1).map(({ name }) => `'${name}'`);
      await execute(
        databaseOf(data),
        `DELETE FROM SequelizeMeta WHERE name IN (${[`'${itemAt(migrations, listed).name}'`, ...last].join()})`,
      );
      await openAndClose(data);
      expect(plain(await layoutOf(data))).toEqual(plain(wanted));
    }
  });

  /** `IF NOT EXISTS` is no part of a layout. */
  const plain = (layout: readonly string[]): string[] => layout.map((sql) => sql.replace(/"/g, ""));

  const KILLS = process.env["HUMMING_TIDE_LONG"] ? 100 : 3;
  it(`opens after ${KILLS} kills at random moments of a first start or an upgrade from the first release`, {
    timeout: 1_200_000,
  }, async () => {
    const script = builtProgram(new URL("../testing/open-and-wait.ts", import.meta.url));
    let random = 20_310_621;
    const folder = path.join(place.folder, "killed");
    for (let round = 0; round < KILLS; round++) {
      const data = path.join(folder, String(round));
      const isUpgrade = round % 2 === 1;
      if (isUpgrade) await writeFirstRelease(data);
      const child = spawn(process.execPath, [script, data], {
        stdio: ["ignore", "pipe", "inherit"],
      });
      const exited = once(child, "exit");
      await once(child.stdout, "data");
      random = (random * 1_103_515_245 + 12_345) % 2 ** 31;
      // Opening takes about this long, most of it in the migrations.
      await new Promise((resolve) => setTimeout(resolve, (150 * random) / 2 ** 31));
      child.kill("SIGKILL");
      await exited;
      await openAndClose(data);
      const shows = await rows<{ id: string }>(databaseOf(data), "SELECT id FROM shows");
      expect(shows).toHaveLength(isUpgrade ? 2 : 1);
    }
  });
});

describe("a data folder that cannot be opened", () => {
  const folderWith = async (name: string, change: (file: string) => Promise<void>): Promise<string> => {
    const data = path.join(place.folder, name);
    await openAndClose(data);
    await mkdir(path.join(data, "media", "ab"), { recursive: true });
    await change(databaseOf(data));
    return data;
  };

  it.each([
    ["text", "database-damaged", (file: string) => writeFile(file, "Bring the lanterns. ".repeat(400))],
    ["an empty file", "database-empty", (file: string) => writeFile(file, "")],
    ["some bytes of it", "database-damaged", (file: string) => truncate(file, 60)],
    ["its first half", "database-damaged", (file: string) => truncate(file, 40_960)],
    [
      "another page in its middle",
      "database-damaged",
      async (file: string) => {
        const bytes = await readFile(file);
        bytes.fill(0x5a, 4096, 12_288);
        await writeFile(file, bytes);
      },
    ],
    [
      "a newer one",
      "database-newer",
      (file: string) => execute(file, "INSERT INTO SequelizeMeta VALUES ('999-next-year')"),
    ],
  ])("says so in one sentence where the database is %s, and changes nothing", async (name, code, change) => {
    const data = await folderWith(name, change);
    const before = await readFile(databaseOf(data));
    await expect(openStudio(data)).rejects.toMatchObject({
      code,
      message: expect.stringMatching(/^[^\n]{40,400}$/) as string,
    });
    expect(Buffer.compare(await readFile(databaseOf(data)), before)).toBe(0);
    // It is given back: whoever mends it can start at once.
    await expect(openStudio(data)).rejects.toMatchObject({ code });
  });

  it("is not shared: the second program hears who has it", async () => {
    const data = path.join(place.folder, "shared");
    const studio = await openStudio(data);
    await studio.lock.setAddress("http://127.0.0.1:4810");
    const script = builtProgram(new URL("../testing/open-and-wait.ts", import.meta.url));
    const { stderr } = spawnSync(process.execPath, [script, data], {
      encoding: "utf8",
      timeout: 60_000,
    });
    expect(stderr).toMatch(/in use by a Humming Tide server at http:\/\/127\.0\.0\.1:4810 \(process \d+/);
    await studio.close();
    await openAndClose(data);
  });

  it("is free again when its owner was killed", async () => {
    const data = path.join(place.folder, "left");
    const script = builtProgram(new URL("../testing/open-and-wait.ts", import.meta.url));
    const child = spawn(process.execPath, [script, data], { stdio: ["ignore", "pipe", "inherit"] });
    const exited = once(child, "exit");
    for await (const text of child.stdout) if (String(text).includes("open")) break;
    await expect(openStudio(data)).rejects.toMatchObject({ code: "folder-in-use" });
    child.kill("SIGKILL");
    await exited;
    await openAndClose(data);
  });
});

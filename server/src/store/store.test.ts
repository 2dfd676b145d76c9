import { spawnSync } from "node:child_process";
import path from "node:path";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import { newShowDocument, SHOW_DOCUMENT_VERSION, templateOf } from "@humming-tide/core/show";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openStudio, type Studio } from "../start-server.ts";
import { temporaryFolder } from "../testing/index.ts";
import { OLD_MEDIUM, OLD_SHOW, statements, writeFirstRelease } from "./testing/first-release.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let data: string;
let studio: Studio;

beforeAll(async () => {
  place = await temporaryFolder();
  data = path.join(place.folder, "data");
  await writeFirstRelease(data);
  studio = await openStudio(data);
});
afterAll(async () => {
  await studio.close();
  await place.remove();
});

describe("a data folder of the first release", () => {
  it("opens with its shows, every revision and its media", async () => {
    const show = await studio.shows.get(OLD_SHOW);
    expect(show).toMatchObject({
      revision: 2,
      place: "shelf",
      document: { version: SHOW_DOCUMENT_VERSION, title: "Second", slides: [{ rating: "keep" }] },
    });
    const { revisions, more } = await studio.shows.revisions(OLD_SHOW, null);
    expect(more).toBe(false);
    expect(revisions.map(({ revision, changes }) => [revision, changes])).toEqual([
      [2, ["named “Second”"]],
      [1, []],
    ]);
    expect((await studio.shows.documentAt(OLD_SHOW, 1)).title).toBe("First");
    expect(await studio.stores.media.get(OLD_MEDIUM)).toMatchObject({ camera: "", fingerprint: null, blur: null });
  });
});

describe("history", () => {
  it("keeps every revision, in pages, each with what it changed", async () => {
    let show = await studio.shows.create("Regatta");
    for (let i = 0; i < 90; i++)
      show = await studio.shows.save(show.id, show.revision, { ...show.document, title: `Regatta ${i}` });
    const first = await studio.shows.revisions(show.id, null);
    expect([first.revisions.length, first.more, itemAt(first.revisions, 0).revision]).toEqual([40, true, 91]);
    const all = [...first.revisions];
    while (lastOf(all).revision > 1)
      all.push(...(await studio.shows.revisions(show.id, lastOf(all).revision)).revisions);
    expect(all.map(({ revision }) => revision)).toEqual(Array.from({ length: 91 }, (_, i) => 91 - i));
    expect(itemAt(all, 5).changes).toEqual(["named “Regatta 84”"]);
    expect((await studio.shows.documentAt(show.id, 3)).title).toBe("Regatta 1");
    await expect(studio.shows.documentAt(show.id, 999)).rejects.toMatchObject({ code: "revision-unknown" });
  });

  it("takes edits of programs whoever saves in between", async () => {
    const show = await studio.shows.create("Busy");
    const add = (letter: string) =>
      studio.shows.edit(show.id, (document) => ({ ...document, title: document.title + letter }));
    await Promise.all([..."abcdefgh"].map(add));
    const { document, revision } = await studio.shows.get(show.id);
    expect([[...document.title.slice(4)].sort().join(""), revision]).toEqual(["abcdefgh", 9]);
    const same = await studio.shows.edit(show.id, (unchanged) => unchanged);
    expect(same.revision).toBe(9);
  });
});

describe("the shelf", () => {
  const later = (days: number): Date => new Date(Date.now() + days * 86_400_000);

  it("archives, deletes with a way back for 30 days, and clears away after that, with all that belongs to it", async () => {
    const show = await studio.shows.create("To go");
    const kept = await studio.shows.create("To stay");
    await studio.intake.announce(show.id, [{ path: "a.jpg", bytes: 1, modifiedMs: 1 }]);
    expect((await studio.shows.put(show.id, "archive")).place).toBe("archive");
    expect((await studio.shows.get(show.id)).document.title).toBe("To go");
    await studio.shows.put(show.id, "deleted");
    await expect(studio.shows.get(show.id)).rejects.toMatchObject({ code: "show-deleted" });
    await expect(studio.shows.save(show.id, 1, newShowDocument("Late"))).rejects.toMatchObject({
      code: "show-deleted",
    });
    expect(await studio.shows.purgeDeleted(later(29.9))).toEqual([]);
    expect((await studio.shows.put(show.id, "shelf")).place).toBe("shelf");
    await studio.shows.put(show.id, "deleted");
    await studio.shows.purgeDeleted(later(30.1));
    await expect(studio.shows.get(show.id)).rejects.toMatchObject({ code: "show-unknown" });
    expect((await studio.shows.get(kept.id)).document.title).toBe("To stay");
  });

  it("keeps a show's place among the last changed when it is only put elsewhere", async () => {
    const show = await studio.shows.create("Old one");
    await statements(
      path.join(data, "humming-tide.sqlite"),
      `UPDATE shows SET updated_at = '2026-01-15 10:00:00.000 +00:00' WHERE id = '${show.id}'`,
    );
    await studio.shows.put(show.id, "archive");
    const put = await studio.shows.put(show.id, "shelf");
    expect(put.updatedAt.toISOString()).toBe("2026-01-15T10:00:00.000Z");
  });

  it("keeps templates by name", async () => {
    const template = templateOf(newShowDocument("x"));
    const first = await studio.stores.templates.put("Calm", template);
    const second = await studio.stores.templates.put("Calm", { ...template, pace: { kind: "bars", count: 1 } });
    expect(second.id).toBe(first.id);
    expect(await studio.stores.templates.list()).toMatchObject([
      { name: "Calm", template: { pace: { kind: "bars" } } },
    ]);
    await studio.stores.templates.remove(first.id);
    await expect(studio.stores.templates.get(first.id)).rejects.toMatchObject({ code: "template-unknown" });
  });
});

describe("two programs on one data folder", () => {
  it("are kept apart: the second one hears who has it, and touches nothing", async () => {
    const { writeFile, access } = await import("node:fs/promises");
    const half = path.join(studio.folder.unfinished, "half");
    await writeFile(half, "x");
    const command = new URL("../../../cli/bin/humming-tide.mjs", import.meta.url).pathname;
    const { status, stderr } = spawnSync(process.execPath, [command, "pack", "nobody", "x.zip", "--data", data], {
      encoding: "utf8",
    });
    expect([status, stderr]).toEqual([
      1,
      expect.stringContaining(`in use by another Humming Tide program (process ${process.pid}`),
    ]);
    await access(half);
  });
});

import path from "node:path";
import { Readable } from "node:stream";
import { itemAt, present } from "@humming-tide/core/presence";
import { newShowDocument } from "@humming-tide/core/show";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { openStudio, type Studio } from "../start-server.ts";
import { stripedJpeg, temporaryFolder } from "../testing/index.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let studio: Studio;
let showId: string;
beforeAll(async () => {
  place = await temporaryFolder();
  studio = await openStudio(path.join(place.folder, "data"));
  showId = (await studio.shows.create("Regatta", newShowDocument("Regatta"))).id;
});
afterAll(async () => {
  await studio.close();
  await place.remove();
});

const file = (name: string, bytes = 1, modifiedMs = 5) => ({ path: name, bytes, modifiedMs });

describe("bringing in", () => {
  it("remembers what came in, what did not and why, and asks only for what is missing", async () => {
    const content = await stripedJpeg(1);
    const files = [file("card 1/a.jpg"), file("card 2/a.jpg"), file("b.jpg")];
    const first = await studio.intake.announce(showId, files);
    expect(first.map(({ path: name, state }) => [name, state])).toEqual(files.map((each) => [each.path, "waiting"]));
    const facts = await studio.intake.take(showId, itemAt(first, 0).id, () => Readable.from([content]));
    await expect(studio.intake.take(showId, itemAt(first, 1).id, () => Readable.from(["letter"]))).rejects.toThrow(
      /neither/,
    );

    const again = await studio.intake.announce(showId, [...files, file("b.jpg"), file("b.jpg", 1, 6)]);
    expect(again.map(({ state }) => state)).toEqual(["in", "refused", "waiting", "waiting", "waiting"]);
    expect(itemAt(again, 0).facts).toMatchObject({ sha256: facts.sha256, kind: "picture" });
    expect(itemAt(again, 1).message).toMatch(/neither a picture/);
    expect(itemAt(again, 2).id).toBe(itemAt(again, 3).id);
    expect(itemAt(again, 4).id).not.toBe(itemAt(again, 3).id);
    expect((await studio.intake.waiting(showId)).map(({ path: name }) => name)).toEqual(["b.jpg", "b.jpg"]);
    await studio.intake.forgetWaiting(showId);
    expect(await studio.intake.waiting(showId)).toEqual([]);
  });

  it("knows files of one show only, and takes 2,000 names of every kind at once", async () => {
    const other = (await studio.shows.create("Other")).id;
    const names = Array.from({ length: 2000 }, (_, i) =>
      file(`${"long ".repeat(i % 60)}🏮 "quoted" 'n' \\ ‮שלום ${i}.jpg`, i),
    );
    const announced = await studio.intake.announce(other, names);
    expect(announced.map(({ path: name }) => name)).toEqual(names.map((each) => each.path));
    await expect(studio.intake.take(showId, itemAt(announced, 0).id, () => Readable.from(["x"]))).rejects.toMatchObject(
      {
        code: "intake-unknown",
      },
    );
  });

  it("does not hold a broken-off upload against the file", async () => {
    const [announced] = await studio.intake.announce(showId, [file("half.jpg", 9)]);
    const broken = new Readable({ read: () => undefined });
    const taking = studio.intake.take(showId, present(announced).id, () => broken);
    broken.push("half");
    // Half of it is on its way to the disk when the sender goes.
    await new Promise((resolve) => setTimeout(resolve, 100));
    broken.destroy(Object.assign(new Error("aborted"), { code: "ECONNRESET" }));
    await expect(taking).rejects.toMatchObject({ code: "upload-broken-off" });
    expect(itemAt(await studio.intake.announce(showId, [file("half.jpg", 9)]), 0).state).toBe("waiting");
  });
});

describe("turned pictures", () => {
  it("are made on first use, upright as asked, for every file that is drawn", async () => {
    // Red on the left, blue on the right.
    const red = await sharp({ create: { width: 60, height: 80, channels: 3, background: "#d00" } })
      .png()
      .toBuffer();
    const png = await sharp({ create: { width: 120, height: 80, channels: 3, background: "#00d" } })
      .composite([{ input: red, left: 0, top: 0 }])
      .png()
      .toBuffer();
    const { sha256 } = await studio.library.takeIn(Readable.from([png]), "halves.png");
    const redAt = { 90: [0.5, 0.2], 180: [0.8, 0.5], 270: [0.5, 0.8] } as const;
    for (const turn of [90, 180, 270] as const) {
      const name = `${sha256}-${turn}`;
      await Promise.all([studio.library.ensureDrawn(name), studio.library.ensureDrawn(name)]);
      for (const kind of ["working.jpg", "thumbnail.webp"]) {
        const { data, info } = await sharp(studio.library.store.derivedPath(name, kind))
          .raw()
          .toBuffer({ resolveWithObject: true });
        expect([info.width, info.height]).toEqual(turn === 180 ? [120, 80] : [80, 120]);
        const [x, y] = redAt[turn];
        const at = (Math.floor(y * info.height) * info.width + Math.floor(x * info.width)) * info.channels;
        expect([itemAt(data, at) > 180, itemAt(data, at + 2) < 60]).toEqual([true, true]);
      }
    }
    await expect(studio.library.ensureDrawn(`${"0".repeat(64)}-90`)).rejects.toMatchObject({ code: "media-unknown" });
    await expect(studio.library.ensureDrawn("../x")).rejects.toMatchObject({ code: "media-unknown" });
  });
});

import { createReadStream } from "node:fs";
import { writeFile } from "node:fs/promises";
import path from "node:path";
import { mainOutput, newShowDocument, newShowSong, newSlide } from "@humming-tide/core/show";
import { afterAll, beforeAll, expect, it, vi } from "vitest";
import { openDataFolder } from "../data-folder.ts";
import { openStudio, type Studio } from "../start-server.ts";
import { clickSong, stripedJpeg, temporaryFolder } from "../testing/index.ts";
import { ExportQueue } from "./export-queue.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let studio: Studio;
let showId: string;

beforeAll(async () => {
  place = await temporaryFolder();
  studio = await openStudio(path.join(place.folder, "data"));
  const files = [
    [path.join(place.folder, "1.jpg"), await stripedJpeg(1)],
    [path.join(place.folder, "song.wav"), clickSong(4).wav],
  ] as const;
  const hashes: string[] = [];
  for (const [file, content] of files) {
    await writeFile(file, content);
    hashes.push((await studio.library.takeIn(createReadStream(file), path.basename(file))).sha256);
  }
  const [picture, song] = hashes as [string, string];
  const show = await studio.shows.create("Regatta", {
    ...newShowDocument("Regatta"),
    size: { width: 320, height: 180 },
    slides: [newSlide({ id: "s1", sha256: picture, fileName: "1.jpg" })],
    songs: [newShowSong({ id: "song 1", sha256: song, fileName: "song.wav" })],
  });
  showId = show.id;
});
afterAll(async () => {
  await studio.close();
  await place.remove();
});

it("cancels what is still being prepared at once, and goes on with the next", async () => {
  const queue = new ExportQueue(await openDataFolder(path.join(place.folder, "data")), studio.library);
  const { document } = await studio.shows.get(showId);
  const ended = (id: string): Promise<string> =>
    new Promise((resolve) =>
      queue.on("change", (job) => {
        if (job.id === id && job.state !== "queued" && job.state !== "running") resolve(job.state);
      }),
    );
  // As with hundreds of large pictures: it does not end.
  const preparing = vi.spyOn(studio.library, "prepareFilm").mockReturnValue(new Promise(() => undefined));
  const begun = new Promise<void>((resolve) => queue.once("change", () => queue.once("change", () => resolve())));
  const [first] = await queue.add(showId, document, [{ ...mainOutput(document), size: { width: 3840, height: 2160 } }]);
  await begun;
  expect(await queue.get(first!.id)).toMatchObject({ state: "running", step: "Preparing the pictures" });
  const firstEnded = ended(first!.id);
  await queue.cancel(first!.id);
  expect(await firstEnded).toBe("cancelled");

  preparing.mockRestore();
  const [second] = await queue.add(showId, document, [{ ...mainOutput(document), container: "webm" }]);
  expect(second).toMatchObject({ fileName: "Regatta, Main film 180p.webm", output: { container: "webm" } });
  expect(await ended(second!.id)).toBe("done");
  expect((await queue.get(second!.id)).measurement).toMatchObject({ ok: true, problems: [] });
  await queue.close();
});

it("refuses sizes that video cannot have", async () => {
  const queue = new ExportQueue(await openDataFolder(path.join(place.folder, "data")), studio.library);
  const { document } = await studio.shows.get(showId);
  await expect(
    queue.add(showId, document, [{ ...mainOutput(document), size: { width: 321, height: 180 } }]),
  ).rejects.toThrow(/even.*321 x 180/);
  await queue.close();
});

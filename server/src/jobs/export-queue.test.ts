import { execFileSync } from "node:child_process";
import { createReadStream } from "node:fs";
import { mkdir, readFile, statfs, writeFile } from "node:fs/promises";
import path from "node:path";
import { planOutput } from "@humming-tide/core/film";
import { itemAt, present } from "@humming-tide/core/presence";
import {
  addVoice,
  changeSong,
  mainOutput,
  newShowDocument,
  newShowSong,
  newSlide,
  type ShowDocument,
} from "@humming-tide/core/show";
import { afterAll, beforeAll, expect, it, vi } from "vitest";
import { writerOf } from "../outputs/writers.ts";
import { openStudio, type Studio } from "../start-server.ts";
import { clickSong, ffmpeg, stripedJpeg, temporaryFolder } from "../testing/index.ts";
import { checkDiskSpace } from "./disk-space.ts";
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
  const queue = new ExportQueue(studio);
  const { document } = await studio.shows.get(showId);
  const ended = (id: string): Promise<string> =>
    new Promise((resolve) =>
      queue.on("change", (job) => {
        if (job.id === id && job.state !== "queued" && job.state !== "running") resolve(job.state);
      }),
    );
  // As with hundreds of large pictures: it does not end.
  const preparing = vi.spyOn(studio.library, "prepareFilm").mockReturnValue(new Promise(() => undefined));
  const begun = new Promise<void>((resolve) =>
    queue.on("change", ({ state }) => {
      if (state === "running") resolve();
    }),
  );
  const [first] = await queue.add(showId, document, [{ ...mainOutput(document), size: { width: 3840, height: 2160 } }]);
  await begun;
  expect(await queue.get(present(first).id)).toMatchObject({ state: "running", step: "Preparing the pictures" });
  const firstEnded = ended(present(first).id);
  await queue.cancel(present(first).id);
  expect(await firstEnded).toBe("cancelled");

  preparing.mockRestore();
  const [second] = await queue.add(showId, document, [{ ...mainOutput(document), container: "webm" }]);
  expect(second).toMatchObject({ fileName: "Regatta, Main film 180p.webm", output: { container: "webm" } });
  expect(await ended(present(second).id)).toBe("done");
  expect((await queue.get(present(second).id)).measurement).toMatchObject({ ok: true, problems: [] });
  await queue.close();
});

it("makes the films of several outputs one after the other: voices heard, chapters, poster and title in the file, put into the chosen folder beside what is there", async () => {
  const queue = new ExportQueue(studio);
  const { document } = await studio.shows.get(showId);
  const voicePath = path.join(place.folder, "voice.wav");
  ffmpeg(["-f", "lavfi", "-i", "sine=frequency=300:duration=2,tremolo=f=4:d=0.9", "-y", voicePath]);
  const voice = await studio.library.takeIn(createReadStream(voicePath), "voice.wav", { wanted: "voice" });
  const quiet = changeSong(document, "song 1", { decibels: -30 });
  const spoken: ShowDocument = {
    ...addVoice(quiet, { sha256: voice.sha256, fileName: "voice.wav" }, { slideId: null, seconds: 1 }),
    passages: document.passages.map((passage) => ({ ...passage, name: "The quay; at = night" })),
  };
  const films = path.join(place.folder, "films");
  await mkdir(films);
  await writeFile(path.join(films, "Regatta, Main film 180p.mp4"), "something else");
  await expect(studio.filmsFolder.choose("films")).rejects.toThrow(/whole path/);
  await expect(studio.filmsFolder.choose(path.join(films, "nowhere"))).rejects.toThrow(/no such folder/);
  await expect(studio.filmsFolder.choose(voicePath)).rejects.toThrow(/no such folder/);
  await studio.filmsFolder.choose(films);
  try {
    const main = mainOutput(document);
    const jobs = await queue.add(showId, spoken, [
      main,
      { ...main, id: "phone", name: "For phones", size: { width: 160, height: 90 }, quality: "small" },
    ]);
    expect(jobs.map(({ state }) => state)).toEqual(["queued", "queued"]);
    await new Promise<void>((resolve) =>
      queue.on("change", ({ id, state }) => {
        if (id === itemAt(jobs, 1).id && state !== "queued" && state !== "running") resolve();
      }),
    );
    const done = await Promise.all(jobs.map(({ id }) => queue.get(id)));
    expect(done.map(({ state, copiedTo }) => [state, copiedTo])).toEqual([
      ["done", path.join(films, "Regatta, Main film 180p 2.mp4")],
      ["done", path.join(films, "Regatta, For phones 90p.mp4")],
    ]);
    expect(await readFile(path.join(films, "Regatta, Main film 180p.mp4"), "utf8")).toBe("something else");
    expect(itemAt(done, 1).bytes).toBeLessThan(present(itemAt(done, 0).bytes));
    const film = queue.filmPath(itemAt(done, 0));
    const facts = probed(film);
    expect(facts.format.tags.title).toBe("Regatta");
    expect(facts.chapters.map(({ tags, start_time }) => [tags.title, Number(start_time)])).toEqual([
      ["The quay; at = night", 0],
    ]);
    expect(facts.streams.filter(({ disposition }) => disposition.attached_pic === 1)).toMatchObject([
      { codec_name: "mjpeg" },
    ]);
    // The voice, in the file that was put there.
    const sound = ffmpeg([
      ...["-i", present(itemAt(done, 0).copiedTo), "-af", "bandpass=f=300:width_type=h:w=60,volumedetect"],
      ...["-f", "s16le", "-ac", "1", "-ar", "8000", "-"],
    ]);
    const level = (from: number, to: number): number => {
      const samples = new Int16Array(sound.buffer, sound.byteOffset + 16_000 * from, 8000 * (to - from));
      return Math.sqrt(samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length);
    };
    expect(level(1.5, 2.5)).toBeGreaterThan(10 * level(0.2, 0.8));
  } finally {
    await studio.filmsFolder.choose(null);
    await queue.close();
  }
});

it("says before the work that the disk is too small for it", async () => {
  const { document } = await studio.shows.get(showId);
  const plan = planOutput(document, mainOutput(document), await studio.library.filmFacts(document));
  const bytes = writerOf("mp4").estimate(plan, "fine");
  expect(writerOf("mp4").estimate(plan, "small")).toBeLessThan(bytes);
  expect(writerOf("mezzanine").estimate(plan, "fine")).toBeGreaterThan(2 * bytes);
  await checkDiskSpace(place.folder, bytes);
  const { bavail, bsize } = await statfs(place.folder);
  await expect(checkDiskSpace(place.folder, bavail * bsize)).rejects.toMatchObject({ code: "disk-short" });
});

interface Probed {
  readonly format: { readonly tags: { readonly title: string } };
  readonly streams: readonly { readonly codec_name: string; readonly disposition: { readonly attached_pic: number } }[];
  readonly chapters: readonly { readonly start_time: string; readonly tags: { readonly title: string } }[];
}

function probed(film: string): Probed {
  const args = ["-v", "error", "-show_format", "-show_streams", "-show_chapters", "-of", "json", film];
  return JSON.parse(execFileSync("ffprobe", args, { encoding: "utf8" })) as Probed;
}

it("begins an export three times where the server was killed, then says why no more; a stop that is meant does not count", async () => {
  const { document } = await studio.shows.get(showId);
  const { exports } = studio.stores;
  const { id } = await exports.create(showId, document, mainOutput(document));
  for (const tries of [1, 2, 3]) {
    // A server that claims it, and dies.
    expect(await exports.jobs.claimNext(Date.now() + 30_000)).toBe(id);
    expect(await exports.get(id)).toMatchObject({ state: "running", tries });
    if (tries < 3) {
      await exports.jobs.requeueAbandoned(Number.MAX_SAFE_INTEGER, "");
      expect(await exports.get(id)).toMatchObject({ state: "queued", tries });
    }
  }
  const queue = new ExportQueue(studio);
  await queue.start();
  expect(await exports.get(id)).toMatchObject({
    ...{ state: "failed", tries: 3, error: expect.stringMatching(/stopped 3 times.*fewer or smaller/) as string },
  });
  const [meant] = await queue.add(showId, document, [mainOutput(document)]);
  await expect.poll(async () => (await exports.get(present(meant).id)).state).toBe("running");
  await queue.close();
  expect(await exports.get(present(meant).id)).toMatchObject({ state: "queued", tries: 0 });
  await exports.jobs.cancelWaiting(present(meant).id, "Cancelled");
});

it("refuses sizes that video cannot have", async () => {
  const queue = new ExportQueue(studio);
  const { document } = await studio.shows.get(showId);
  await expect(
    queue.add(showId, document, [{ ...mainOutput(document), size: { width: 321, height: 180 } }]),
  ).rejects.toThrow(/even.*321 x 180/);
  const small = { ...mainOutput(document), container: "mezzanine", size: { width: 240, height: 180 } } as const;
  await expect(queue.add(showId, document, [small])).rejects.toMatchObject({ code: "size-too-small" });
  await queue.close();
});

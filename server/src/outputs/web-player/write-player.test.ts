import { createReadStream, existsSync } from "node:fs";
import { readdir, readFile } from "node:fs/promises";
import path from "node:path";
import { chaptersOf, type FilmPlan, planOutput, showForOutput } from "@humming-tide/core/film";
import { soundLag } from "@humming-tide/core/measure";
import { applyLook, clipAt, imageKey } from "@humming-tide/core/picture";
import { itemAt, present } from "@humming-tide/core/presence";
import { type FilmOutput, mainOutput, newSlide, type ShowDocument } from "@humming-tide/core/show";
import type { PlayerFilm } from "@humming-tide/core/web-player";
import sharp from "sharp";
import { afterAll, beforeAll, expect, it } from "vitest";
import { SONG_FILES } from "../../media/song-intake.ts";
import { type FilmStudio, openFilmStudio } from "../../testing/film-studio.ts";
import { ffmpeg, NUMBERED_CLIP, numberedClip, readNumber } from "../../testing/index.ts";
import { writeMix } from "../video/write-mix.ts";
import { writePlayer } from "./write-player.ts";

const HOSTILE = "Regatta </script><script>alert(1)</script> & “night”";
const LOOK = { kind: "warm", strength: 0.8, levels: 0 } as const;
/** Times that differ by less are the same (core/picture). */
const SAME_TIME_SECONDS = 5e-4;
let studio: FilmStudio;
let document: ShowDocument;
let output: FilmOutput;
let plan: FilmPlan;
let folder: string;
let film: PlayerFilm;

async function write(place: string, signal = new AbortController().signal, title = HOSTILE): Promise<number> {
  const { library } = studio.studio;
  const copies = await library.prepareFilm(showForOutput(document, output), plan);
  const chapters = chaptersOf(document, plan);
  return writePlayer({
    ...{ plan, output, store: library.store, title, chapters, copies, place, signal },
    onProgress: () => undefined,
  });
}

beforeAll(async () => {
  studio = await openFilmStudio(4, 14);
  const { library } = studio.studio;
  const clip = await library.takeIn(
    createReadStream(numberedClip(path.join(studio.folder, "numbers.mp4"), "30000/1001")),
    "numbers.mp4",
  );
  const [first, ...others] = studio.document.slides;
  document = {
    ...studio.document,
    slides: [
      { ...present(first), caption: "Boats at the quay </script>" },
      { ...newSlide({ id: "clip", sha256: clip.sha256, fileName: "numbers.mp4" }), stays: true },
      ...others,
    ],
    style: { ...studio.document.style, look: LOOK },
  };
  const mark = { text: "Proof", place: "middle", strength: 0.4 } as const;
  output = { ...mainOutput(document), container: "player", watermark: mark };
  plan = planOutput(document, output, await library.filmFacts(document));
  folder = path.join(studio.folder, "player");
  await write(folder);
  const script = await readFile(path.join(folder, "film/film.js"), "utf8");
  film = JSON.parse(script.replace(/^window\.hummingTideFilm = |;\n$/g, "")) as PlayerFilm;
});
afterAll(() => studio.close());

it("is a folder of just the files that its film names, with nothing about cameras, songs and people in it", async () => {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  const files = entries
    .filter((entry) => entry.isFile())
    .map((entry) => path.relative(folder, path.join(entry.parentPath, entry.name)));
  const named = [
    ...film.images.map(({ file }) => file),
    ...film.clips.map(({ file }) => file),
    ...film.words.flatMap(({ drawn }) => drawn.flatMap(({ pieces }) => pieces.map(({ file }) => file))),
    ...[film.sound, "film.js", "player.js", "player.css"],
  ].map((file) => `film/${file}`);
  expect(files.sort()).toEqual(["index.html", ...named].sort());
  for (const { file, width, height } of film.images) {
    const facts = await sharp(path.join(folder, "film", file)).metadata();
    expect(facts).toMatchObject({ width, height });
    expect(facts.exif).toBeUndefined();
  }
  const script = await readFile(path.join(folder, "film/film.js"), "utf8");
  expect(script).not.toContain("song.wav");
  expect(script).not.toContain("0.jpg");
});

it("keeps a hostile title and caption out of its page's markup", async () => {
  const page = await readFile(path.join(folder, "index.html"), "utf8");
  expect(page.match(/<script/g)).toHaveLength(2);
  expect(page).toContain("Regatta &lt;/script&gt;");
  expect(await readFile(path.join(folder, "film/film.js"), "utf8")).not.toMatch(/<\/?script/);
  expect(film.title).toBe(HOSTILE);
});

it("has its pictures with their look, as the export gives it", async () => {
  const picture = present(itemAt(plan.slots, 0).picture);
  const key = imageKey({ picture, of: "picture", look: itemAt(plan.slots, 0).look });
  const image = present(film.images.find((one) => one.key === key));
  const shown = await sharp(path.join(folder, "film", image.file))
    .ensureAlpha()
    .raw()
    .toBuffer();
  const working = studio.studio.library.store.derivedPath(picture, "working.jpg");
  const expected = new Uint8ClampedArray(await sharp(working).ensureAlpha().raw().toBuffer());
  applyLook(expected, LOOK);
  const apart = shown.reduce((sum, value, i) => sum + Math.abs(value - itemAt(expected, i)), 0) / shown.length;
  expect(apart).toBeLessThan(2);
});

it("has a frame of a clip for each of the film's, at another rate than the clip's own", () => {
  const slotIndex = plan.slots.findIndex(({ slideId }) => slideId === "clip");
  const slot = itemAt(plan.slots, slotIndex);
  const clip = present(film.clips.find((one) => one.slotIndex === slotIndex));
  expect(clip.startFrame).toBe(slot.transitionIn.startFrame);
  expect(clip.endFrame).toBe(itemAt(plan.slots, slotIndex + 1).transitionIn.endFrame);
  const { width, height, startFrame, endFrame } = clip;
  const bytes = ffmpeg([...["-i", path.join(folder, "film", clip.file), "-f", "rawvideo", "-pix_fmt", "gray", "-"]]);
  expect(bytes.length).toBe(width * height * (endFrame - startFrame));
  for (let frame = startFrame; frame < endFrame; frame++) {
    const row = bytes.subarray((frame - startFrame) * width * height + (height >> 1) * width).subarray(0, width);
    const { seconds } = clipAt(present(slot.clip), slotIndex, frame);
    const number = Math.min(NUMBERED_CLIP.frames - 1, Math.floor(((seconds + SAME_TIME_SECONDS) * 30_000) / 1001));
    expect(readNumber(row), `frame ${frame}`).toBe(number);
  }
});

it("has the film's sound, to the sample where the mix has it", async () => {
  const { library } = studio.studio;
  const mixPath = path.join(studio.folder, "mix.f32");
  const flacPathOf = (name: string): string => library.store.derivedPath(name, SONG_FILES.sound);
  await writeMix({ plan, flacPathOf, mixPath, signal: new AbortController().signal });
  const mono = (args: readonly string[]): Float32Array => {
    const bytes = ffmpeg([...args, "-ac", "1", "-ar", "48000", "-f", "f32le", "-"]);
    return new Float32Array(bytes.buffer, bytes.byteOffset, bytes.length >> 2).slice(0, 6 * 48_000);
  };
  const lag = present(
    soundLag(
      mono(["-f", "f32le", "-ar", "48000", "-ac", "2", "-i", mixPath]),
      mono(["-i", path.join(folder, "film", film.sound)]),
      4800,
    ),
  );
  expect(lag.match).toBeGreaterThan(0.5);
  expect(Math.abs(lag.samples)).toBeLessThan(1);
});

it("is one zip with one folder on wish, and nothing at all where it was stopped", async () => {
  const zip = path.join(studio.folder, "player.zip");
  const bytes = await write(zip, undefined, "Closing night");
  expect((await readFile(zip)).length).toBe(bytes);
  const stopped = path.join(studio.folder, "stopped.zip");
  const stopping = new AbortController();
  stopping.abort(new Error("stopped by hand"));
  const before = await readdir(studio.folder);
  await expect(write(stopped, stopping.signal)).rejects.toThrow("stopped by hand");
  expect(existsSync(stopped)).toBe(false);
  expect(await readdir(studio.folder)).toEqual(before);
});

import { createReadStream } from "node:fs";
import { rm, writeFile } from "node:fs/promises";
import path from "node:path";
import { isSeen } from "@humming-tide/contract";
import { type FilmPlan, filmFacts, planFilm } from "@humming-tide/core/film";
import { imagesIn, planFrame } from "@humming-tide/core/picture";
import { valueFor } from "@humming-tide/core/presence";
import { newShowDocument, newShowSong, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { steadySong } from "@humming-tide/core/testing";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ClipFrames, FramePainter, type PathOfImage } from "../outputs/video/index.ts";
import { openStudio, type Studio } from "../start-server.ts";
import { temporaryFolder } from "../testing/index.ts";
import { drawnFile } from "./drawn-file.ts";
import { seenHashes } from "./media-library.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
let studio: Studio;
let [wide, small] = ["", ""];

/**
 * Upright stripes, each two pixels of the original wide: too fine for a working copy of 2,400
 * pixels, not for a large one of 4,800.
 */
async function striped(name: string, width: number, height: number): Promise<string> {
  const pixels = Buffer.alloc(width * height);
  for (let i = 0; i < pixels.length; i++) pixels[i] = Math.floor((i % width) / 2) % 2 === 0 ? 30 : 225;
  const file = path.join(place.folder, name);
  await writeFile(
    file,
    await sharp(pixels, { raw: { width, height, channels: 1 } })
      .jpeg({ quality: 95 })
      .toBuffer(),
  );
  return (await studio.library.takeIn(createReadStream(file), name)).sha256;
}

beforeAll(async () => {
  place = await temporaryFolder();
  studio = await openStudio(path.join(place.folder, "data"));
  wide = await striped("wide.jpg", 6000, 3400);
  small = await striped("small.jpg", 1800, 1020);
});
afterAll(async () => {
  await studio.close();
  await place.remove();
});

const SONG = steadySong(8, 120);

function show(size: ShowDocument["size"], turn: 0 | 90 = 0): ShowDocument {
  return {
    ...newShowDocument("Regatta"),
    size,
    standsStill: true,
    slides: [wide, small].map((sha256, i) => ({ ...newSlide({ id: `s${i}`, sha256, fileName: "striped.jpg" }), turn })),
    songs: [newShowSong({ id: "song 1", sha256: "0".repeat(64), fileName: "song.wav" })],
  };
}

async function planOf(document: ShowDocument): Promise<FilmPlan> {
  const facts = await studio.library.facts(seenHashes(document));
  const seen = (sha256: string): { width: number; height: number } => {
    const found = valueFor(facts, sha256);
    if (!isSeen(found)) throw new Error("a picture was expected");
    return found;
  };
  const plan = planFilm(
    document,
    filmFacts(() => SONG, seen),
  );
  // The song is made of facts alone: there is no sound to prepare.
  return { ...plan, sound: { ...plan.sound, pieces: [] } };
}

/** How far lightness goes up and down in the middle row of the first slide. */
async function contrast(document: ShowDocument, copies: ReadonlyMap<string, string>): Promise<number> {
  const plan = await planOf(document);
  const { store } = studio.library;
  const pathOfImage: PathOfImage = (picture, of) => drawnFile(store, picture, of, copies);
  const painter = new FramePainter(plan.size, pathOfImage, new ClipFrames(() => ""));
  const frame = planFrame(plan, 5);
  const yuv = await painter.paint(frame, imagesIn(frame));
  const { width, height } = plan.size;
  const middle = yuv.subarray((height / 2) * width + width / 4, (height / 2) * width + (3 * width) / 4);
  return Math.max(...middle) - Math.min(...middle);
}

describe("before a film is made", () => {
  it("it is told that a graphic or a picture is not there any more", async () => {
    const gone = await striped("gone.jpg", 90, 90);
    await rm(studio.library.store.originalPath(gone));
    const graphic = {
      kind: "own",
      sha256: gone,
      fileName: "gone.jpg",
      place: "middle",
      size: 0.3,
      opacity: 1,
    } as const;
    const own = show({ width: 1280, height: 720 });
    const withGraphic = { ...own, style: { ...own.style, graphic } };
    await expect(studio.library.prepareFilm(withGraphic, await planOf(withGraphic))).rejects.toMatchObject({
      code: "media-unknown",
      values: { what: "This graphic" },
    });
    const turned = show({ width: 1280, height: 720 }, 90);
    const slides = turned.slides.map((slide) => ({ ...slide, sha256: "f".repeat(64) }));
    await expect(studio.library.prepareFilm({ ...turned, slides }, await planOf(turned))).rejects.toMatchObject({
      code: "media-unknown",
    });
  });
});

describe("films larger than working copies", () => {
  it("are drawn from what the original has", async () => {
    const fourK = show({ width: 3840, height: 2160 });
    const copies = await studio.library.prepareFilm(fourK, await planOf(fourK));
    expect([...copies.keys()]).toEqual([wide]);
    expect(await contrast(fourK, copies)).toBeGreaterThan(4 * (await contrast(fourK, new Map())));
    const smaller = show({ width: 1280, height: 720 });
    expect(await studio.library.prepareFilm(smaller, await planOf(smaller))).toEqual(new Map());
  });

  it("are drawn the way round that a person turned them", async () => {
    const turned = show({ width: 2160, height: 3840 }, 90);
    const copies = await studio.library.prepareFilm(turned, await planOf(turned));
    expect([...copies.keys()]).toEqual([`${wide}-90`]);
    const file = drawnFile(studio.library.store, `${wide}-90`, "picture", copies);
    expect(await sharp(file).metadata()).toMatchObject({ width: 2720, height: 4800 });
  });
});

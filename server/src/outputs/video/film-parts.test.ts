import { execFileSync, spawnSync } from "node:child_process";
import { createReadStream } from "node:fs";
import { readdir, stat, truncate } from "node:fs/promises";
import path from "node:path";
import { type FilmPlan, planFilm } from "@humming-tide/core/film";
import { type FilmReport, filmReport } from "@humming-tide/core/interchange";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import { FIRST_STYLE, type ShowDocument, type VideoContainer } from "@humming-tide/core/show";
import { NAMED_FRAME_RATES, parseFrameRate } from "@humming-tide/core/time";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { drawnFile } from "../../media/drawn-file.ts";
import type { Studio } from "../../start-server.ts";
import { type FilmStudio, openFilmStudio } from "../../testing/film-studio.ts";
import { ffmpeg, numberedClip, readNumber } from "../../testing/index.ts";
import { ClipFrames } from "./clip-frames.ts";
import { encodeFilm } from "./encode-film.ts";
import { FilmParts } from "./film-parts.ts";
import { filmSegments } from "./film-segments.ts";
import { extensionOf } from "./formats/index.ts";
import { makeFilm } from "./make-film.ts";
import { verifyFilm } from "./verify-film.ts";

/**
 * Enough to tell frames apart: twenty seconds of a larger picture take long to draw. VC-3 takes 256
 * x 120 and more.
 */
const SIZE = { width: 256, height: 144 };

let place: FilmStudio;
let studio: Studio;
let document: ShowDocument;
let songPath: string;

beforeAll(async () => {
  place = await openFilmStudio(6, 15);
  ({ studio, songPath } = place);
  document = { ...place.document, size: SIZE };
});
afterAll(() => place.close());

const planOf = async (more: Partial<ShowDocument> = {}): Promise<FilmPlan> => {
  const show = { ...document, ...more };
  return planFilm(show, await studio.library.filmFacts(show));
};

interface Made {
  readonly film: string;
  readonly report: FilmReport;
}

interface EncodeOptions {
  readonly partsName?: string;
  /** The frame at which the process dies. */
  readonly stopAt?: number;
  readonly container?: VideoContainer;
}

/** Encodes with parts that stay, as a process that dies leaves them. */
async function encode(
  name: string,
  plan: FilmPlan,
  { partsName = name, stopAt = Infinity, container = "mp4" }: EncodeOptions = {},
): Promise<Made> {
  const form = { container, quality: "fine" } as const;
  const film = path.join(place.folder, `${name}.${extensionOf(container)}`);
  const stop = new AbortController();
  const { store } = studio.library;
  const clips = new ClipFrames((sha256) => store.originalPath(sha256));
  try {
    const shares = await encodeFilm({
      plan,
      form,
      flacPathOf: (sha256) => store.derivedPath(sha256, "sound.flac"),
      pathOfImage: (picture, of) => drawnFile(store, picture, of),
      clips,
      parts: await FilmParts.open(partsFolder(partsName), plan, form),
      filmPath: film,
      title: name,
      chapters: [],
      posterPath: null,
      signal: stop.signal,
      onFrame: (done) => {
        if (done >= stopAt) stop.abort(new Error("died"));
      },
    });
    return { film, report: filmReport(plan, () => songPath, shares) };
  } finally {
    clips.close();
  }
}

const partsFolder = (name: string): string => path.join(place.folder, `${name} parts`);

/** The lightness of a film's decoded frames, one row of numbers a frame. */
function decoded(film: string): Buffer[] {
  const bytes = ffmpeg(["-i", film, "-map", "0:v", "-vsync", "0", "-f", "rawvideo", "-pix_fmt", "gray", "-"]);
  const length = document.size.width * document.size.height;
  return Array.from({ length: bytes.length / length }, (_, i) => bytes.subarray(i * length, (i + 1) * length));
}

/** The frames, by number, in which two films of equal length differ at all. */
function differingFrames(a: string, b: string): number[] {
  const [here, there] = [decoded(a), decoded(b)];
  expect(here.length).toBe(there.length);
  return here.flatMap((frame, number) => (frame.equals(itemAt(there, number)) ? [] : [number]));
}

describe("segments", () => {
  it("tile the film, about ten seconds each, in whole milliseconds at every rate", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.values(NAMED_FRAME_RATES)),
        fc.integer({ min: 1, max: 200_000 }),
        (rate, total) => {
          const segments = filmSegments(total, rate);
          expect(itemAt(segments, 0).fromFrame).toBe(0);
          expect(lastOf(segments).endFrame).toBe(total);
          for (const [i, { index, fromFrame, endFrame }] of segments.entries()) {
            expect([index, endFrame > fromFrame]).toEqual([i, true]);
            if (i > 0) expect(fromFrame).toBe(itemAt(segments, i - 1).endFrame);
            if (i === segments.length - 1) continue;
            const milliseconds = BigInt(endFrame - fromFrame) * BigInt(rate.den) * 1000n;
            expect(milliseconds % BigInt(rate.num)).toBe(0n);
            expect(Math.abs(Number(milliseconds) / rate.num / 1000 - 10)).toBeLessThan(0.6);
          }
        },
      ),
    );
  });
});

describe("a film that is joined of segments", () => {
  it.each([
    ["23.976", "mp4"],
    ["25", "mp4"],
    ["29.97", "mp4"],
    ["59.94", "mp4"],
    ["23.976", "webm"],
    ["30", "webm"],
    ["25", "av1"],
    ["29.97", "mezzanine"],
  ] as const)("repeats and loses no frame where they meet, at %s frames per second in %s", async (name, container) => {
    const rate = parseFrameRate(name);
    const [, join] = filmSegments(10_000, rate);
    const clipRate = name === "59.94" ? "30000/1001" : `${rate.num}/${rate.den}`;
    const file = numberedClip(path.join(place.folder, `numbered ${name} ${container}.mp4`), clipRate);
    const { sha256 } = await studio.library.takeIn(createReadStream(file), "numbered.mp4");
    const clip = { inSeconds: 0, outSeconds: null, momentSeconds: null, speed: 1 };
    const style = { ...FIRST_STYLE, fill: { kind: "crop" }, transition: { kind: "cut" } } as const;
    // The clip is put on the slide that is seen while one segment ends and the next begins.
    const bare = await planOf({ frameRate: { ...rate }, style });
    const landingLock = { songId: "song 1", seconds: 8.8, turn: 0, exact: false };
    const isAcross = ({ startFrame, endFrame }: { startFrame: number; endFrame: number }): boolean =>
      startFrame < present(join).fromFrame - 2 && endFrame > present(join).fromFrame + 2;
    const distance = ({ startFrame }: { startFrame: number }): number =>
      Math.abs((startFrame * rate.den) / rate.num - landingLock.seconds);
    const { slideId } = itemAt(
      bare.slots.toSorted((a, b) => distance(a) - distance(b)),
      0,
    );
    const slides = document.slides.map((slide) =>
      slide.id === slideId ? { ...slide, sha256, clip, landingLock } : slide,
    );
    const { film, report, plan } = await make(`joined ${name}`, { frameRate: { ...rate }, style, slides }, container);
    const slot = present(plan.slots.find((other) => other.sha256 === sha256));
    expect(isAcross(slot)).toBe(true);

    const row = ["-vf", "crop=iw:2:0:ih/2,scale=160:1,format=gray", "-f", "rawvideo", "pipe:1"];
    const rows = ffmpeg(["-i", film, "-map", "0:v", "-vsync", "0", ...row]);
    const numbers = Array.from({ length: slot.endFrame - slot.startFrame }, (_, i) =>
      readNumber(rows.subarray(160 * (slot.startFrame + i), 160 * (slot.startFrame + i + 1))),
    );
    // Every frame of the clip once, or twice in a film of twice as many.
    const times = name === "59.94" ? 2 : 1;
    expect(numbers).toEqual(
      numbers.map(
        (_, i) =>
          itemAt(numbers, 0) + Math.floor((i + (itemAt(numbers, 1) - itemAt(numbers, 0) > 0 ? times - 1 : 0)) / times),
      ),
    );
    const measured = await verifyFilm(film, report, () => songPath);
    expect(measured).toMatchObject({ ok: true, problems: [], film: { frames: plan.totalFrames } });
    expect(present(measured.largestErrorFrames)).toBeLessThanOrEqual(0.51);
  });

  it("is what ffprobe takes for VP9 and Opus with BT.709 where it is a WebM", async () => {
    const { film } = await make("web", { standsStill: true }, "webm");
    expect(streamsOf(film)).toMatchObject([
      { codec_name: "vp9", ...SIZE, pix_fmt: "yuv420p", color_space: "bt709", color_range: "tv" },
      { codec_name: "opus", sample_rate: "48000", channels: 2 },
    ]);
  });

  it("is AV1 and Opus to ffprobe, or VC-3 of 10 bits and PCM of 24 bits, each with the colours of BT.709", async () => {
    const colours = { ...SIZE, color_space: "bt709", color_range: "tv" };
    const av1 = streamsOf((await make("small web", { standsStill: true }, "av1")).film);
    expect(av1).toMatchObject([
      { ...colours, codec_name: "av1", pix_fmt: "yuv420p" },
      { codec_name: "opus", sample_rate: "48000", channels: 2 },
    ]);
    const { film, plan } = await make("for editing", { standsStill: true }, "mezzanine");
    // SMPTE ST 2019-1 has two families: HQX is the one of 10 bits, 4:2:2.
    expect(streamsOf(film)).toMatchObject([
      {
        ...colours,
        codec_name: "dnxhd",
        profile: "DNXHR HQX",
        pix_fmt: "yuv422p10le",
        nb_frames: `${plan.totalFrames}`,
      },
      { codec_name: "pcm_s24le", sample_rate: "48000", channels: 2, bits_per_raw_sample: "24" },
    ]);
    // Every frame can be cut at.
    const keys = ["-v", "error", "-select_streams", "v", "-show_entries", "frame=key_frame", "-of", "csv=p=0", film];
    const frames = execFileSync("ffprobe", keys, { encoding: "utf8" }).trim().split(/\s+/);
    expect(new Set(frames.map((line) => line.replace(",", "")))).toEqual(new Set(["1"]));
  });

  it.each([
    [3840, 2160],
    [1080, 1920],
    [1080, 1080],
    [1080, 1350],
  ])("has %i x %i pixels to an outside judge, and a picture up to its edges", async (width, height) => {
    const plan = { ...(await planOf({ size: { width, height } })), totalFrames: 8 };
    const { film } = await encode(`${width}x${height}`, plan);
    expect(streamsOf(film)[0]).toMatchObject({ codec_name: "h264", width, height, nb_frames: "8" });
    const [frame] = [ffmpeg(["-i", film, "-frames:v", "1", "-f", "rawvideo", "-pix_fmt", "gray", "-"])];
    for (const [x, y] of [
      [0, height / 2],
      [width - 1, height / 2],
      [width / 2, 0],
      [width / 2, height - 1],
    ] as const)
      expect(frame[Math.floor(y) * width + Math.floor(x)]).toBeGreaterThan(18);
  });
});

async function make(
  name: string,
  more: Partial<ShowDocument>,
  container: VideoContainer,
  signal = new AbortController().signal,
): Promise<Made & { plan: FilmPlan }> {
  const film = path.join(place.folder, `${name}.${extensionOf(container)}`);
  const plan = await planOf(more);
  const { report } = await makeFilm({
    plan,
    form: { container, quality: "fine" },
    copies: await studio.library.prepareFilm({ ...document, ...more }, plan),
    store: studio.library.store,
    title: name,
    filmPath: film,
    partsFolder: partsFolder(name),
    songPathOf: () => songPath,
    signal,
    onProgress: () => undefined,
  });
  return { film, report, plan };
}

function streamsOf(film: string): Record<string, unknown>[] {
  const { stdout } = spawnSync("ffprobe", ["-v", "error", "-show_streams", "-of", "json", film]);
  return (JSON.parse(stdout.toString()) as { streams: Record<string, unknown>[] }).streams;
}

/**
 * H.264 with threads encodes the same frames a little differently each time; this kind of file
 * encodes each frame by itself, so that two films are the same or they are not.
 */
const EXACT = { container: "mezzanine" } as const;

describe("a film whose making was broken off", () => {
  it("goes on from what was finished, and is the film that is made at one go", async () => {
    const plan = await planOf();
    const [first, second] = filmSegments(plan.totalFrames, plan.rate);
    await expect(encode("broken", plan, { ...EXACT, stopAt: present(second).fromFrame + 100 })).rejects.toThrow("died");
    const partPath = path.join(partsFolder("broken"), "00000.mov");
    const before = await stat(partPath);
    expect((await readdir(partsFolder("broken"))).filter((name) => /^\d+\.mov$/.test(name))).toEqual(["00000.mov"]);
    expect(present(first).endFrame).toBe(250);

    const resumed = await encode("broken", plan, EXACT);
    expect(await stat(partPath)).toMatchObject({ ino: before.ino, mtimeMs: before.mtimeMs });
    const whole = await encode("whole", plan, EXACT);
    expect(resumed.report).toEqual(whole.report);
    expect(differingFrames(resumed.film, whole.film)).toEqual([]);
    const measured = await verifyFilm(resumed.film, resumed.report, () => songPath);
    expect(measured).toMatchObject({ ok: true, problems: [], unseen: [] });
  });

  it("makes a damaged part again, and all of them where the show has changed", async () => {
    const plan = await planOf();
    const whole = await encode("parts", plan, EXACT);
    const partPath = path.join(partsFolder("parts"), "00001.mov");
    const { size } = await stat(partPath);
    await truncate(partPath, Math.floor(size / 2));
    const mended = await encode("mended", plan, { ...EXACT, partsName: "parts" });
    expect(differingFrames(mended.film, whole.film)).toEqual([]);

    const other = await planOf({ slides: document.slides.toReversed() });
    const { report, film } = await encode("other", other, { ...EXACT, partsName: "parts" });
    expect(await verifyFilm(film, report, () => songPath)).toMatchObject({ ok: true, problems: [] });
  });

  it("leaves nothing behind where it was cancelled", async () => {
    const cancel = new AbortController();
    cancel.abort(new Error("enough"));
    await expect(make("cancelled", {}, "mp4", cancel.signal)).rejects.toThrow("enough");
    expect((await readdir(place.folder)).filter((name) => /cancelled|unfinished/.test(name))).toEqual([]);
  });
});

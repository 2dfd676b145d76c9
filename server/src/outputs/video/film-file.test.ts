import { createReadStream } from "node:fs";
import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { planFilm } from "@humming-tide/core/film";
import type { FilmReport } from "@humming-tide/core/interchange";
import { newTransition } from "@humming-tide/core/picture";
import { itemAt, lastOf, present, valueFor } from "@humming-tide/core/presence";
import type { VideoContainer } from "@humming-tide/core/show";
import { FIRST_STYLE, newCard, newShowSong, newWords, type ShowDocument } from "@humming-tide/core/show";
import { parseFrameRate } from "@humming-tide/core/time";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Studio } from "../../start-server.ts";
import { type FilmStudio, openFilmStudio } from "../../testing/film-studio.ts";
import { clickSong, ffmpeg, numberedClip, readNumber } from "../../testing/index.ts";
import { makeFilm } from "./make-film.ts";
import { verifyFilm } from "./verify-film.ts";

let place: FilmStudio;
let studio: Studio;
let document: ShowDocument;
let songPath: string;

beforeAll(async () => {
  place = await openFilmStudio(7, 10);
  ({ studio, songPath } = place);
  document = { ...place.document, standsStill: true };
});
afterAll(() => place.close());

async function make(
  name: string,
  more: Partial<ShowDocument>,
  container: VideoContainer = "mp4",
): Promise<{ film: string; report: FilmReport }> {
  const show = { ...document, ...more };
  const film = path.join(place.folder, `${name}.${container}`);
  const plan = planFilm(show, await studio.library.filmFacts(show));
  const { report } = await makeFilm({
    plan,
    store: studio.library.store,
    title: name,
    form: { container, quality: "fine" },
    copies: await studio.library.prepareFilm(show, plan),
    filmPath: film,
    partsFolder: path.join(place.folder, `${name} parts`),
    songPathOf: () => songPath,
    signal: new AbortController().signal,
    onProgress: () => undefined,
  });
  return { film, report };
}

type Made = ReturnType<typeof make>;
const known = new Map<string, Made>();
/** A film that several tests look at is made once. */
function madeOnce(name: string, more: Partial<ShowDocument>): Made {
  const film = known.get(name) ?? make(name, more);
  known.set(name, film);
  return film;
}

const plain = (): Made => madeOnce("plain", {});
const withCuts = (): Made => madeOnce("cuts", { style: { ...FIRST_STYLE, transition: { kind: "cut" } } });
const ofRate = (rate: string): Made => madeOnce(`rate ${rate}`, { frameRate: { ...parseFrameRate(rate) } });

const KINDS = ["cut", "dissolve", "dip", "push", "iris", "page-turn", "light-flash", "wipe"] as const;

/**
 * Films of moving pictures in which every kind of transition is seen: each change of another kind.
 * The long check makes a film of each kind alone.
 */
const MOVING: readonly (readonly (typeof KINDS)[number][])[] = process.env["HUMMING_TIDE_LONG"]
  ? KINDS.map((kind) => [kind])
  : [KINDS, [...KINDS.slice(4), ...KINDS.slice(0, 4)]];

function moving(kinds: (typeof MOVING)[number]): Made {
  const slides = document.slides.map((slide, i) => {
    const transition = newTransition(itemAt(kinds, i % kinds.length), { unit: "seconds", count: 0.6 });
    return { ...slide, style: { ...slide.style, transition } };
  });
  return madeOnce(`moving ${kinds.join()}`, { standsStill: false, slides });
}

describe("the film file", () => {
  it.each(["24", "25", "29.97", "30", "59.94"])(
    "shows every change within half a frame of its beat at %s frames per second",
    async (rate) => {
      const { film, report } = await ofRate(rate);
      const measured = await verifyFilm(film, report, () => songPath);
      expect(measured.problems).toEqual([]);
      expect(measured.unseen).toEqual([]);
      expect(measured.changes).toHaveLength(6);
      expect(present(measured.largestErrorFrames)).toBeLessThanOrEqual(0.51);
      expect(Math.abs(present(measured.sound.lagMs))).toBeLessThan(2);
      // The plan and the pixels say the same, change by change.
      for (const change of measured.changes) expect(change.measuredFrame).toBe(change.plannedFrame);
    },
  );

  it.each([
    { point: "start", leadFrames: 1 },
    { point: "end", leadFrames: 3 },
  ] as const)("shows what is meant to land where it was planned: %o", async (transitionLanding) => {
    const { film, report } = await make(`${transitionLanding.point} ${transitionLanding.leadFrames}`, {
      transitionLanding,
      style: { ...FIRST_STYLE, transition: { kind: "dissolve", length: { unit: "seconds", count: 0.5 } } },
    });
    const measured = await verifyFilm(film, report, () => songPath);
    expect(measured).toMatchObject({ ok: true, problems: [], unseen: [] });
    for (const [i, change] of measured.changes.entries()) {
      expect(change.measuredFrame).toBe(change.plannedFrame);
      const shown = (itemAt(report.slots, i + 1).startFrame + transitionLanding.leadFrames) / 25;
      expect(Math.abs(shown - change.landingSeconds)).toBeLessThanOrEqual(0.02 + 1e-9);
    }
  });

  it("measures cuts too", async () => {
    const { film, report } = await withCuts();
    const measured = await verifyFilm(film, report, () => songPath);
    expect(measured).toMatchObject({ ok: true, unseen: [] });
    for (const change of measured.changes) expect(change.measuredFrame).toBe(change.plannedFrame);
  });

  it.each(MOVING)("finds every change between moving pictures on its landing: %s first", async (...kinds) => {
    const { film, report } = await moving(kinds);
    expect(report.slots.slice(1).every(({ drawnShares }) => drawnShares !== undefined)).toBe(true);
    const measured = await verifyFilm(film, report, () => songPath);
    expect(measured).toMatchObject({ ok: true, problems: [], unseen: [] });
    for (const change of measured.changes) expect(change.measuredFrame).toBe(change.plannedFrame);
  });

  it.each(MOVING)("finds them late where the film is a frame late: %s first", async (...kinds) => {
    const { film, report } = await moving(kinds);
    const late = path.join(place.folder, `later ${kinds.join()}.mp4`);
    const filter = `tpad=start=1:start_mode=clone,trim=end_frame=${lastOf(report.slots).endFrame}`;
    ffmpeg(["-i", film, "-vf", filter, "-c:a", "copy", "-y", late]);
    const { ok, changes } = await verifyFilm(late, report, () => songPath);
    expect(ok).toBe(false);
    const lags = changes.map((change) => present(change.measuredFrame) - change.plannedFrame);
    expect(lags.filter((lag) => lag === 1).length).toBeGreaterThanOrEqual(lags.length - 1);
  });

  it.each(["jpg", "png"])(
    "gives a chart of greys and colours (%s) back within 2 of 255, read as BT.709",
    async (kind) => {
      const colours = Array.from({ length: 24 }, (_, i): [number, number, number] =>
        i < 8
          ? [Math.round((255 * i) / 7), Math.round((255 * i) / 7), Math.round((255 * i) / 7)]
          : [((i * 83) % 200) + 30, ((i * 47 + 90) % 200) + 30, ((i * 131 + 40) % 200) + 30],
      );
      const raw = { width: 960, height: 540, channels: 3 } as const;
      const pixels = Buffer.alloc(raw.width * raw.height * raw.channels);
      for (let at = 0; at < pixels.length / 3; at++) {
        const [x, y] = [at % raw.width, Math.floor(at / raw.width)];
        pixels.set(itemAt(colours, 6 * Math.floor(y / 135) + Math.floor(x / 160)), 3 * at);
      }
      const chart = path.join(place.folder, `chart.${kind}`);
      const drawn = sharp(pixels, { raw });
      await (kind === "png" ? drawn.png() : drawn.jpeg({ quality: 95, chromaSubsampling: "4:4:4" })).toFile(chart);
      // What a person sees of the file is what is to come back.
      const { data: seen, info } = await sharp(chart).removeAlpha().raw().toBuffer({ resolveWithObject: true });
      const { sha256 } = await studio.library.takeIn(createReadStream(chart), `chart.${kind}`);
      const slides = document.slides.map((slide) => ({ ...slide, sha256 }));
      const { film, report } = await make(`chart ${kind}`, {
        slides,
        size: { width: 960, height: 540 },
        style: { ...FIRST_STYLE, transition: { kind: "cut" } },
      });
      const at = Math.round((itemAt(report.slots, 2).startFrame + itemAt(report.slots, 2).endFrame) / 2);
      // The planes as ffmpeg decodes them; its own way to eight bits of RGB is up to four off. So
      // they are read by the standard's equations (ITU-R BT.709, 3 and 4).
      const yuv = ffmpeg([
        "-i",
        film,
        "-vf",
        `select=eq(n\\,${at})`,
        "-frames:v",
        "1",
        "-f",
        "rawvideo",
        "-pix_fmt",
        "yuv420p",
        "pipe:1",
      ]);
      const mean = (offset: number, stride: number, x: number, y: number): number => {
        let sum = 0;
        for (let dy = -4; dy < 4; dy++)
          for (let dx = -4; dx < 4; dx++) sum += itemAt(yuv, offset + stride * (y + dy) + x + dx);
        return sum / 64;
      };
      for (const i of colours.keys()) {
        const [x, y] = [(i % 6) * 160 + 80, Math.floor(i / 6) * 135 + 67];
        const colour = seen.subarray(info.channels * (960 * y + x), info.channels * (960 * y + x) + 3);
        const luma = (mean(0, 960, x, y) - 16) / 219;
        const [blueness, redness] = [960 * 540, 960 * 540 * 1.25].map(
          (plane) => (mean(plane, 480, x >> 1, y >> 1) - 128) / 224,
        ) as [number, number];
        const red = luma + 1.5748 * redness;
        const blue = luma + 1.8556 * blueness;
        const green = (luma - 0.2126 * red - 0.0722 * blue) / 0.7152;
        for (const [channel, share] of [red, green, blue].entries())
          expect(Math.abs(255 * share - itemAt(colour, channel)), `patch ${i}, channel ${channel}`).toBeLessThanOrEqual(
            2,
          );
      }
    },
  );

  it("has its changes where they were planned under words, a look, an overlay and several pictures too", async () => {
    const letters = { ...FIRST_STYLE.letters, fade: { unit: "beats", count: 0.5 } } as const;
    const [first, second, ...others] = document.slides;
    const more = [
      { sha256: present(present(second).sha256), fileName: present(second).fileName, turn: 0, subject: null },
    ] as const;
    const card = newCard("card", [newWords("credits", "Boats:\nFirefly\nHarbour Moth")], "#7090a0", 2);
    const { film, report } = await make("dressed", {
      slides: [
        { ...present(first), more: [...more], caption: "At the quay 🏮" },
        ...others.map((slide) => ({ ...slide, caption: "Lanterns lit" })),
        card,
      ],
      style: {
        ...FIRST_STYLE,
        letters,
        transition: { kind: "dissolve", length: { unit: "seconds", count: 0.5 } },
        look: { kind: "faded", strength: 0.5, levels: 0.3 },
        overlay: { kind: "confetti", strength: 0.4 },
        edge: { kind: "mat", colour: "#f3e9d4", width: 0.04 },
      },
    });
    const measured = await verifyFilm(film, report, () => songPath);
    expect(measured).toMatchObject({ ok: true, problems: [], unseen: [] });
    for (const change of measured.changes) expect(change.measuredFrame).toBe(change.plannedFrame);
  });

  it("shows of a clip the frame of each instant, from first to last", async () => {
    const file = numberedClip(path.join(place.folder, "numbered.mp4"), "30000/1001");
    const { sha256 } = await studio.library.takeIn(createReadStream(file), "numbered.mp4");
    const clip = { inSeconds: 0.4, outSeconds: null, momentSeconds: null, speed: 1 };
    const slides = document.slides.map((slide, i) => (i === 2 ? { ...slide, sha256, clip } : slide));
    const fill = { kind: "crop" } as const;
    const { film, report } = await make("clip", { slides, style: { ...FIRST_STYLE, fill } });
    const slot = itemAt(report.slots, 2);
    const first = slot.transitionIn.endFrame;
    const last = itemAt(report.slots, 3).transitionIn.startFrame;
    expect(last - first).toBeGreaterThan(12);
    const row = ["-vf", "crop=iw:2:0:ih/2,scale=160:1,format=gray", "-f", "rawvideo", "pipe:1"];
    const rows = ffmpeg(["-i", film, "-map", "0:v", "-vsync", "0", ...row]);
    const numbers = Array.from({ length: last - first }, (_, i) =>
      readNumber(rows.subarray(160 * (first + i), 160 * (first + i + 1))),
    );
    // One clip second behind the other: 29.97 frames of it in 25 of the film.
    const start = itemAt(numbers, 0);
    for (const [i, shown] of numbers.entries()) {
      const seconds = ((start + 0.5) * 1001) / 30_000 + i / 25;
      expect(Math.abs((shown * 1001) / 30_000 + 1001 / 60_000 - seconds)).toBeLessThan(0.0334);
    }
    expect(new Set(numbers).size).toBe(numbers.length);
    expect(start).toBeGreaterThanOrEqual(Math.floor(0.4 * 29.97));
    expect(await verifyFilm(film, report, () => songPath)).toMatchObject({ ok: true, problems: [] });
  });

  it("puts several songs where they were planned: jumps, a crossfade with bars kept together, another speed", async () => {
    const otherPath = path.join(place.folder, "other song.wav");
    await writeFile(otherPath, clickSong(16, 109, 0.4).wav);
    const other = await studio.library.takeIn(createReadStream(otherPath), "other song.wav");
    const first = itemAt(document.songs, 0);
    const bar = (4 * 60) / 118;
    const join = { fromSeconds: 0.613 + 3 * bar, toSeconds: 0.613 + bar };
    const { film, report } = await make("songs", {
      songs: [
        { ...first, joins: [join] },
        {
          ...newShowSong({ id: "song 2", sha256: other.sha256, fileName: "other song.wav" }),
          entry: { kind: "crossfade", bars: 2 },
          speed: 0.993,
        },
      ],
    });
    const paths = new Map([
      [first.sha256, songPath],
      [other.sha256, otherPath],
    ]);
    const measured = await verifyFilm(film, report, (sha256) => valueFor(paths, sha256));
    expect(measured.problems).toEqual([]);
    // Before the jump, behind it, and the second song alone at its speed.
    expect(present(report.pieces).map(({ sha256 }) => sha256)).toEqual([first.sha256, first.sha256, other.sha256]);
    expect(present(report.pieces).map(({ speed }) => Number(speed.toFixed(9)))).toEqual([1, 1, 0.993]);
    expect(itemAt(present(report.pieces), 1).songStartSeconds).toBeCloseTo(join.toSeconds, 1);
    expect(measured.sound.places).toHaveLength(15);
    expect(Math.abs(present(measured.sound.lagMs))).toBeLessThan(2);
  });

  it("is what ffprobe takes for H.264 at 30000/1001 with BT.709 and 48 kHz AAC", async () => {
    const { film } = await ofRate("29.97");
    const { spawnSync } = await import("node:child_process");
    const { stdout } = spawnSync("ffprobe", ["-v", "error", "-show_streams", "-show_format", "-of", "json", film]);
    const facts = JSON.parse(stdout.toString()) as {
      streams: Record<string, unknown>[];
      format: { tags: Record<string, string> };
    };
    expect(facts.streams[0]).toMatchObject({
      codec_name: "h264",
      r_frame_rate: "30000/1001",
      avg_frame_rate: "30000/1001",
      pix_fmt: "yuv420p",
      color_space: "bt709",
      color_transfer: "bt709",
      color_primaries: "bt709",
      color_range: "tv",
    });
    expect(facts.streams[1]).toMatchObject({ codec_name: "aac", sample_rate: "48000", channels: 2 });
    expect(facts.format.tags["title"]).toBe("rate 29.97");
  });
});

describe("measuring finds what is wrong", () => {
  it("a film whose pictures come one frame late", async () => {
    const { film, report } = await withCuts();
    const late = path.join(place.folder, "picture-late.mp4");
    ffmpeg(["-i", film, "-vf", "tpad=start=1:start_mode=clone", "-c:a", "copy", late]);
    const { ok, problems, changes } = await verifyFilm(late, report, () => songPath);
    expect(ok).toBe(false);
    expect(changes.filter((change) => change.measuredFrame === change.plannedFrame + 1)).toHaveLength(6);
    expect(problems.join("\n")).toMatch(/frames .* off its landing/);
  });

  it("music that comes 34 ms late, as from a decoder that forgets the gapless tag", async () => {
    const { film, report } = await plain();
    const late = path.join(place.folder, "music-late.mp4");
    ffmpeg(["-i", film, "-af", "adelay=34|34", "-c:v", "copy", late]);
    const { ok, problems, sound } = await verifyFilm(late, report, () => songPath);
    expect(ok).toBe(false);
    expect(present(sound.lagMs)).toBeCloseTo(34, 0);
    expect(problems.join("\n")).toMatch(/music is 3\d\.\d ms off/);
  });

  it("a film that ends early, another song, and pictures that cannot be told apart", async () => {
    const { film, report } = await plain();
    const short = path.join(place.folder, "short.mp4");
    ffmpeg(["-i", film, "-t", "7", short]);
    expect((await verifyFilm(short, report, () => songPath)).problems.join("\n")).toMatch(
      /frames, but \d+ were planned/,
    );
    const other = path.join(place.folder, "other.wav");
    await writeFile(other, clickSong(14, 93, 0.2).wav);
    expect((await verifyFilm(film, report, () => other)).ok).toBe(false);
    const same = document.slides.map((slide) => ({ ...slide, sha256: itemAt(document.slides, 0).sha256 }));
    const equal = await make("equal", { slides: same });
    const measured = await verifyFilm(equal.film, equal.report, () => songPath);
    expect(measured.unseen).toHaveLength(6);
    expect(measured.problems.join("\n")).toMatch(/6 of 6 changes cannot be seen/);
  });

  it("a film whose music stops dead halfway", async () => {
    const { film, report } = await plain();
    const dead = path.join(place.folder, "dead.mp4");
    ffmpeg(["-i", film, "-af", "volume=0:enable='gt(t,5)'", "-c:v", "copy", dead]);
    const { ok, problems } = await verifyFilm(dead, report, () => songPath);
    expect([ok, problems.join("\n")]).toEqual([false, expect.stringMatching(/sound at .* is not the song's/)]);
  });

  it("says plainly that something is not a film", async () => {
    const { report } = await plain();
    await mkdir(path.join(place.folder, "x"), { recursive: true });
    const text = path.join(place.folder, "x", "text.mp4");
    await writeFile(text, "no film");
    await expect(verifyFilm(text, report, () => songPath)).rejects.toThrow(/cannot be read/);
  });
});

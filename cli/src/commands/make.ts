import { createReadStream } from "node:fs";
import { mkdtemp, readdir, rm, stat, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import type { MediaFacts } from "@humming-tide/contract";
import { HummingTideError } from "@humming-tide/core";
import { planFilm } from "@humming-tide/core/film";
import { fitMessageText } from "@humming-tide/core/fit";
import { counted } from "@humming-tide/core/language";
import { itemAt } from "@humming-tide/core/presence";
import {
  isSystemFile,
  naturalOrder,
  newShowDocument,
  newShowSong,
  newSlide,
  type ShowDocument,
  type Slide,
  type VideoContainer,
} from "@humming-tide/core/show";
import { clockText, frameRateName, parseFrameRate } from "@humming-tide/core/time";
import type { Pace } from "@humming-tide/core/values";
import { findFfmpeg, makeFilm, openStudio, type Studio } from "@humming-tide/server";
import { required, splitArguments } from "../arguments.ts";
import { commandError } from "../command-errors.ts";
import type { Terminal } from "../terminal.ts";
import { usageError } from "../usage-errors.ts";

export const MAKE_HELP = `humming-tide make --music FILE --photos DIR --out FILM
                  [--fps RATE] [--size WxH] [--every 2-beats|bar|auto] [--report R.json]

Lays the pictures of a folder on the beats of a song and makes the film.

  --music FILE     the song; it keeps its length, and the film ends with it
  --photos DIR     the pictures: the top level of DIR, in natural file-name order (2 before 10)
  --out FILM       the film: FILM.mp4 for H.264 and AAC, FILM.webm for VP9 and Opus, FILM.mov for
                   VC-3 and PCM, to edit further
  --fps RATE       23.976, 24, 25, 29.97, 30, 50, 59.94, 60 or NUM/DEN (default 25)
  --size WxH       even numbers of pixels (default 1920x1080)
  --every N-beats  a change every N beats; "bar": every bar; "auto": the best overall fit (default)
  --report R.json  write down where each change was planned, for "humming-tide verify"

Too many or too few pictures: the film is made all the same, and what was left out or repeated is
printed.
Exit codes: 0 made, 1 failed, 2 wrong arguments.`;

/** Pictures taken in at the same time: one is decoded while another is written. */
const AT_ONCE = 2;

interface MakeOptions {
  readonly music: string;
  readonly photos: string;
  readonly out: string;
  readonly container: VideoContainer;
  readonly report: string | undefined;
  readonly frameRate: ShowDocument["frameRate"];
  readonly size: ShowDocument["size"];
  readonly pace: Pace;
}

export async function make(args: readonly string[], terminal: Terminal): Promise<number> {
  const options = readOptions(args);
  await findFfmpeg();
  await checkPlaces(options);
  const dataFolder = await mkdtemp(path.join(tmpdir(), "humming-tide-"));
  const cancel = new AbortController();
  const stop = (): void => cancel.abort(commandError("stopped"));
  process.once("SIGINT", stop);
  process.once("SIGTERM", stop);
  let studio: Studio | null = null;
  try {
    studio = await openStudio(dataFolder);
    return await makeInStudio(studio, options, terminal, cancel.signal);
  } finally {
    process.off("SIGINT", stop);
    process.off("SIGTERM", stop);
    terminal.endProgress();
    await studio?.close();
    await rm(dataFolder, { recursive: true, force: true });
  }
}

/** By the ending of the film's name; anything else is MP4. */
const CONTAINERS: Readonly<Record<string, VideoContainer>> = { ".webm": "webm", ".mov": "mezzanine" };

function readOptions(args: readonly string[]): MakeOptions {
  const parsed = splitArguments(args, ["music", "photos", "out", "fps", "size", "every", "report"]);
  if (parsed.files.length > 0)
    throw usageError("usage-files", {
      command: "make",
      wanted: "no FILE (use --music and --photos)",
      given: parsed.files.length,
    });
  const out = required(parsed, "out");
  return {
    music: required(parsed, "music"),
    photos: required(parsed, "photos"),
    out,
    container: CONTAINERS[path.extname(out).toLowerCase()] ?? "mp4",
    report: parsed.options.report,
    frameRate: readFrameRate(parsed.options.fps ?? "25"),
    size: readSize(parsed.options.size ?? "1920x1080"),
    pace: readPace(parsed.options.every ?? "auto"),
  };
}

function readFrameRate(text: string): ShowDocument["frameRate"] {
  try {
    return { ...parseFrameRate(text) };
  } catch (error) {
    throw usageError("usage-unreadable", { why: `--fps: ${(error as Error).message}` }, { cause: error });
  }
}

function readSize(text: string): ShowDocument["size"] {
  const match = /^(\d+)x(\d+)$/.exec(text);
  const [width, height] = [Number(match?.[1]), Number(match?.[2])];
  const good = (pixels: number): boolean => pixels >= 16 && pixels <= 7680 && pixels % 2 === 0;
  if (!match || !good(width) || !good(height)) {
    const wanted = "WxH with even numbers from 16 to 7680, for example 1920x1080";
    throw usageError("usage-option-value", { option: "size", wanted, given: text });
  }
  return { width, height };
}

function readPace(text: string): Pace {
  if (text === "auto") return { kind: "auto" };
  if (text === "bar") return { kind: "bars", count: 1 };
  const count = Number(/^(\d{1,4})-beats$/.exec(text)?.[1]);
  if (!(count >= 1 && count <= 1000)) {
    const wanted = '"auto", "bar" or a whole number from 1 to 1000 before "-beats", for example 2-beats';
    throw usageError("usage-option-value", { option: "every", wanted, given: text });
  }
  return { kind: "beats", count };
}

/** What can be known to fail before the work begins is said before it. */
async function checkPlaces({ music, photos, out, report }: MakeOptions): Promise<void> {
  const kindOf = async (place: string): Promise<"file" | "folder" | null> =>
    stat(place).then(
      (facts) => (facts.isDirectory() ? "folder" : "file"),
      () => null,
    );
  if ((await kindOf(music)) !== "file") throw commandError("path-unknown", { what: "song", path: music });
  if ((await kindOf(photos)) !== "folder")
    throw commandError("path-unknown", { what: "folder of pictures", path: photos });
  for (const place of [out, report].filter((value) => value !== undefined)) {
    const folder = path.dirname(path.resolve(place));
    if ((await kindOf(folder)) !== "folder") throw commandError("folder-for-file-unknown", { folder, file: place });
    if ((await kindOf(place)) === "folder") throw commandError("not-a-file", { path: place });
  }
}

async function makeInStudio(
  studio: Studio,
  options: MakeOptions,
  terminal: Terminal,
  signal: AbortSignal,
): Promise<number> {
  const slides = await takeInPictures(studio, options.photos, terminal, signal);
  if (slides.length === 0) throw commandError("no-usable-picture", { folder: options.photos });
  terminal.progressLine("Listening to the song", 0);
  const song = await studio.library.takeIn(createReadStream(options.music), path.basename(options.music));
  if (song.kind !== "song") throw commandError("not-a-song", { file: options.music, kind: song.kind });
  if (song.remark) terminal.print(`${options.music}: ${song.remark}`);
  signal.throwIfAborted();

  const document: ShowDocument = {
    ...newShowDocument(path.parse(options.out).name),
    frameRate: options.frameRate,
    size: options.size,
    pace: options.pace,
    slides,
    songs: [newShowSong({ id: "song 1", sha256: song.sha256, fileName: song.fileName })],
  };
  const plan = planFilm(document, await studio.library.filmFacts(document));
  terminal.print(`${counted(slides.length, "picture")}.`);
  for (const message of plan.messages) terminal.print(fitMessageText(message));
  for (const index of plan.leftOut) terminal.print(`left out: ${itemAt(slides, index).fileName}`);
  if (plan.repeats > 0) {
    const again = new Set(plan.slots.filter((slot) => slot.round > 0).map((slot) => slot.name));
    for (const name of again) terminal.print(`repeated: ${name}`);
  }
  terminal.endProgress();
  const copies = await studio.library.prepareFilm(document, plan);
  const { report } = await makeFilm({
    plan,
    copies,
    store: studio.library.store,
    title: document.title,
    form: { container: options.container, quality: "fine" },
    filmPath: path.resolve(options.out),
    partsFolder: studio.library.store.unfinishedPath("parts"),
    songPathOf: () => path.resolve(options.music),
    signal,
    onProgress: ({ step, progress }) => terminal.progressLine(step, progress),
  });
  terminal.endProgress();
  if (options.report) await writeFile(options.report, `${JSON.stringify(report, null, 1)}\n`);
  terminal.print(
    `${options.out}: ${clockText(report.durationSeconds)}, ${plan.totalFrames} frames at ${frameRateName(plan.rate)}, ${plan.slots.length} slots, ${plan.slots.length - 1} changes`,
  );
  return 0;
}

async function takeInPictures(
  studio: Studio,
  folder: string,
  terminal: Terminal,
  signal: AbortSignal,
): Promise<Slide[]> {
  const entries = await readdir(folder, { withFileTypes: true });
  const names = entries
    .filter((entry) => !entry.isDirectory() && !isSystemFile(entry.name))
    .map((entry) => entry.name)
    .sort(naturalOrder);
  const found: (Slide | null)[] = [];
  let next = 0;
  const work = async (): Promise<void> => {
    for (let index = next++; index < names.length; index = next++) {
      signal.throwIfAborted();
      const name = itemAt(names, index);
      terminal.progressLine(`Taking in ${name}`, index / names.length);
      const facts = await takeInPicture(studio, path.join(folder, name), name, terminal);
      found[index] = facts && newSlide({ id: `slide-${index}`, sha256: facts.sha256, fileName: name });
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  const slides = found.filter((slide) => slide !== null);
  return slides;
}

/** Facts of a picture, or null with a printed reason for a file that is none or is damaged. */
async function takeInPicture(
  studio: Studio,
  file: string,
  name: string,
  terminal: Terminal,
): Promise<MediaFacts | null> {
  try {
    const facts = await studio.library.takeIn(createReadStream(file), name);
    if (facts.kind === "picture") return facts;
    terminal.print(`not used: ${name}: it is a ${facts.kind}`);
  } catch (error) {
    if (!(error instanceof HummingTideError) || error.code === "disk-full") throw error;
    terminal.print(`not used: ${name}: ${error.message}`);
  }
  return null;
}

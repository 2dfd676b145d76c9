import { randomUUID } from "node:crypto";
import { createWriteStream } from "node:fs";
import { copyFile, mkdir, readdir, rename, rm, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import { pipeline } from "node:stream/promises";
import { fileURLToPath } from "node:url";
import type { Chapter, FilmPlan } from "@humming-tide/core/film";
import type { FilmOutput } from "@humming-tide/core/show";
import { PLAYER_FILM_VERSION, type PlayerFilm, pictureTrack } from "@humming-tide/core/web-player";
import { escapedHtml } from "../../escaped-html.ts";
import { safeFileName } from "../../file-names.ts";
import type { ContentStore } from "../../media/content-store.ts";
import { drawnFile } from "../../media/drawn-file.ts";
import { SONG_FILES } from "../../media/song-intake.ts";
import { asStorageError } from "../../storage-errors.ts";
import { openZip } from "../../zip-stream.ts";
import { outputError } from "../output-errors.ts";
import type { OutputProgress } from "../output-writer.ts";
import { encodeMix } from "../video/encode-film.ts";
import { writePlayerClips } from "./player-clips.ts";
import { writePlayerImages } from "./player-images.ts";
import { writePlayerWords } from "./player-words.ts";

/** Built with the page (npm run build). */
const PAGE_FOLDER = fileURLToPath(new URL("../../../../web/dist/player", import.meta.url));
const PAGE_FILES = ["player.js", "player.css"] as const;
/** Everything but the page that is opened. */
const FILM_FOLDER = "film";

export interface WritePlayerRequest {
  readonly plan: FilmPlan;
  readonly output: FilmOutput;
  readonly store: ContentStore;
  readonly title: string;
  readonly chapters: readonly Chapter[];
  /** Of MediaLibrary.prepareFilm. */
  readonly copies: ReadonlyMap<string, string>;
  /** Where it goes: a folder that is not there yet or, with the ending ".zip", a file. */
  readonly place: string;
  readonly signal: AbortSignal;
  readonly onProgress: (progress: OutputProgress) => void;
}

/** Of its time, about: measured on the demo. */
const SOUND_SHARE = 0.25;
const IMAGES_SHARE = 0.35;
const CLIPS_SHARE = 0.3;

/**
 * Writes a film as a folder that plays by a double click on its page, without a server or a
 * network; with the ending ".zip" as one file that holds this folder. It is made beside its place
 * and moved there when it is whole. Returns its size in bytes. Throws `player-not-built`, what
 * drawing and mixing throw, and the signal's reason.
 */
export async function writePlayer(request: WritePlayerRequest): Promise<number> {
  const { place, title, signal } = request;
  const isZip = path.extname(place).toLowerCase() === ".zip";
  const unfinished = path.join(path.dirname(path.resolve(place)), `.unfinished-${randomUUID()}`);
  const folder = path.join(unfinished, safeFileName(title, "Film"));
  try {
    await mkdir(path.join(folder, FILM_FOLDER), { recursive: true });
    await writeFolder(request, folder);
    signal.throwIfAborted();
    if (isZip) {
      const zip = path.join(unfinished, "whole.zip");
      await packFolder(unfinished, path.basename(folder), zip, signal);
      await rename(zip, place);
      return (await stat(place)).size;
    }
    await rename(folder, place);
    return await bytesIn(place);
  } catch (error) {
    throw asStorageError(error, "the player could not be written");
  } finally {
    await rm(unfinished, { recursive: true, force: true });
  }
}

async function writeFolder(request: WritePlayerRequest, folder: string): Promise<void> {
  const { plan, output, store, title, chapters, copies, signal, onProgress } = request;
  const { quality, loops } = output;
  const films = path.join(folder, FILM_FOLDER);
  for (const name of ["pictures", "words", "clips"]) await mkdir(path.join(films, name));
  await copyPage(films);
  const track = pictureTrack(plan);
  const { rate, totalFrames } = plan;
  onProgress({ step: "Mixing the sound", progress: 0 });
  const sound = "sound.m4a";
  await encodeMix({
    plan,
    form: { container: "mp4", quality },
    flacPathOf: (soundName) => store.derivedPath(soundName, SONG_FILES.sound),
    mixPath: path.join(path.dirname(folder), "mix.f32"),
    soundPath: path.join(films, sound),
    signal,
  });
  const pathOf: Parameters<typeof writePlayerImages>[1]["pathOf"] = (picture, of) =>
    drawnFile(store, picture, of, copies);
  const images = await writePlayerImages(
    { ...track, totalFrames },
    { pathOf, quality, folder: films, signal },
    (share) => onProgress({ step: "Writing the pictures", progress: SOUND_SHARE + IMAGES_SHARE * share }),
  );
  const originalPath = (sha256: string): string => store.originalPath(sha256);
  const clips = await writePlayerClips({ track, rate, originalPath, quality, folder: films, signal }, (share) =>
    onProgress({ step: "Writing the clips", progress: SOUND_SHARE + IMAGES_SHARE + CLIPS_SHARE * share }),
  );
  onProgress({ step: "Writing the words", progress: SOUND_SHARE + IMAGES_SHARE + CLIPS_SHARE });
  const words = await writePlayerWords(track, films, signal);
  const version = PLAYER_FILM_VERSION;
  const film: PlayerFilm = {
    ...{ version, title, rate, totalFrames, track, chapters, loops, images, words, clips, sound },
  };
  // A script and no JSON: a page that was opened from a folder may load scripts beside it, but not
  // read files.
  await writeFile(path.join(films, "film.js"), `window.hummingTideFilm = ${scriptJson(film)};\n`);
  await writeFile(path.join(folder, "index.html"), pageText(title));
}

/** What could end a line or a script for an older reader is written by its number. */
const scriptJson = (value: unknown): string =>
  JSON.stringify(value).replace(/[<\u2028\u2029]/g, (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, "0")}`);

const pageText = (title: string): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<link rel="icon" href="data:,">
<title>${escapedHtml(title)}</title>
<link rel="stylesheet" href="${FILM_FOLDER}/player.css">
</head>
<body>
<main id="player"></main>
<noscript>This film is played by a script of its own folder. Allow scripts for this page.</noscript>
<script src="${FILM_FOLDER}/film.js"></script>
<script src="${FILM_FOLDER}/player.js"></script>
</body>
</html>
`;

async function copyPage(folder: string): Promise<void> {
  try {
    for (const name of PAGE_FILES) await copyFile(path.join(PAGE_FOLDER, name), path.join(folder, name));
  } catch (cause) {
    if ((cause as { code?: string }).code !== "ENOENT") throw cause;
    throw outputError("player-not-built", {}, { cause });
  }
}

/** Stored and not packed: everything but the page is packed already. */
async function packFolder(root: string, folder: string, place: string, signal: AbortSignal): Promise<void> {
  const { zip, content } = openZip();
  for (const file of await filesIn(path.join(root, folder)))
    zip.addFile(path.join(root, folder, file), `${folder}/${file.split(path.sep).join("/")}`, {
      compress: /\.(js|css|html)$/.test(file),
      mode: 0o100644,
    });
  zip.end();
  await pipeline(content, createWriteStream(place, { flags: "wx" }), { signal });
}

async function filesIn(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  return entries
    .filter((entry) => entry.isFile())
    .map((entry) => path.relative(folder, path.join(entry.parentPath, entry.name)))
    .sort();
}

async function bytesIn(folder: string): Promise<number> {
  let bytes = 0;
  for (const file of await filesIn(folder)) bytes += (await stat(path.join(folder, file))).size;
  return bytes;
}

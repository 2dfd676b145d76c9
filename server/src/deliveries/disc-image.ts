import { copyFile, link, mkdir, readdir, rm, stat, writeFile } from "node:fs/promises";
import path from "node:path";
import type { Chapter } from "@humming-tide/core/film";
import { clockText, type FrameRate, framesPerSecond } from "@humming-tide/core/time";
import { escapedHtml } from "../escaped-html.ts";
import { inputFile, startFfmpeg } from "../media/ffmpeg.ts";

const THUMBNAIL_WIDTH = 480;
/** A chapter shows itself best a while behind its beginning, when its transition is over. */
const THUMBNAIL_AT = 0.35;

export interface DiscImageRequest {
  readonly folder: string;
  readonly filmPath: string;
  readonly title: string;
  /** Below the title: the event and its day. */
  readonly subtitle: string;
  /** Empty: the film is one. */
  readonly chapters: readonly Chapter[];
  readonly rate: FrameRate;
  readonly totalFrames: number;
  readonly firstPlay: "menu" | "film";
  readonly signal: AbortSignal;
  readonly onProgress: (share: number) => void;
}

/**
 * Makes the folder that is written on a disc: the film, a page with a menu of its chapters and
 * their pictures, and "disc.json" that says the same for programs. Everything in it is relative, so
 * the page works from the disc, a folder or a stick. Returns the bytes of each file. Throws
 * `ffmpeg-failed`, and the signal's reason.
 */
export async function writeDiscImage(request: DiscImageRequest): Promise<number[]> {
  const { folder, filmPath, title, chapters, rate, totalFrames, firstPlay, signal, onProgress } = request;
  await rm(folder, { recursive: true, force: true });
  await mkdir(path.join(folder, "menu"), { recursive: true });
  const film = `film${path.extname(filmPath)}`;
  // On the same disk it is the very same file; elsewhere a copy.
  await link(filmPath, path.join(folder, film)).catch(() => copyFile(filmPath, path.join(folder, film)));
  const whole: Chapter = { title, startFrame: 0, endFrame: totalFrames };
  const shown = chapters.length > 0 ? chapters : [whole];
  const fps = framesPerSecond(rate);
  const entries: DiscChapter[] = [];
  for (const [index, { title: name, startFrame, endFrame }] of shown.entries()) {
    signal.throwIfAborted();
    const picture = `menu/${String(index + 1).padStart(2, "0")}.jpg`;
    const seconds = (startFrame + THUMBNAIL_AT * (endFrame - startFrame)) / fps;
    await writeThumbnail(path.join(folder, film), seconds, path.join(folder, picture));
    entries.push({ title: name, startSeconds: Math.round((1000 * startFrame) / fps) / 1000, picture });
    onProgress((index + 1) / shown.length);
  }
  const facts = { format: "humming-tide-disc", version: 1, title, film, firstPlay, chapters: entries };
  await writeFile(path.join(folder, "disc.json"), `${JSON.stringify(facts, null, 1)}\n`);
  await writeFile(path.join(folder, "index.html"), menuPage(request, film, entries));
  return fileBytes(folder);
}

interface DiscChapter {
  readonly title: string;
  readonly startSeconds: number;
  readonly picture: string;
}

async function writeThumbnail(film: string, seconds: number, place: string): Promise<void> {
  const { child, finished } = await startFfmpeg([
    ...["-ss", seconds.toFixed(3), ...inputFile(film), "-map", "0:V:0", "-frames:v", "1"],
    ...["-vf", `scale=${THUMBNAIL_WIDTH}:-2`, "-q:v", "3", "-y", `file:${place}`],
  ]);
  child.stdin.end();
  await finished;
}

async function fileBytes(folder: string): Promise<number[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  const files = entries.filter((entry) => entry.isFile());
  return Promise.all(files.map(async ({ parentPath, name }) => (await stat(path.join(parentPath, name))).size));
}

/** Works without a script where there is none: then every chapter is a link into the film. */
function menuPage(
  { title, subtitle, firstPlay, totalFrames, rate }: DiscImageRequest,
  film: string,
  chapters: readonly DiscChapter[],
): string {
  const items = chapters
    .map(
      (chapter) => `<li><a href="${film}#t=${chapter.startSeconds}" data-seconds="${chapter.startSeconds}">
<img src="${chapter.picture}" alt=""><span>${escapedHtml(chapter.title)}</span><small>${clockText(chapter.startSeconds)}</small></a></li>`,
    )
    .join("\n");
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escapedHtml(title)}</title>
<style>
:root { color-scheme: dark; }
body { margin: 0; min-height: 100vh; background: radial-gradient(120% 90% at 50% 0%, #1a363d, #0d1f26 70%); color: #f3e9d4; font: 17px/1.4 Georgia, serif; }
main { max-width: 70rem; margin: 0 auto; padding: 4vh 2rem 3rem; }
h1 { font-weight: 500; font-size: clamp(1.8rem, 4vw, 3rem); margin: 0; }
p { margin: .3rem 0 2rem; color: #cfc4aa; }
.play { display: inline-block; background: #f2a94b; color: #2a1703; border-radius: 99px; padding: .7rem 2rem; font-weight: 600; text-decoration: none; font-family: system-ui, sans-serif; }
ol { list-style: none; margin: 2.2rem 0 0; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(13rem, 1fr)); gap: 1.4rem; }
li a { display: block; color: inherit; text-decoration: none; }
img { width: 100%; aspect-ratio: 16 / 9; object-fit: cover; border-radius: .4rem; display: block; margin-bottom: .45rem; }
small { color: #a39d89; margin-left: .6rem; font-variant-numeric: tabular-nums; }
a:focus-visible { outline: 3px solid #8fd9cf; outline-offset: 4px; border-radius: .4rem; }
#film { position: fixed; inset: 0; width: 100%; height: 100%; background: #000; display: none; }
body.plays #film { display: block; }
body.plays main { visibility: hidden; }
</style>
</head>
<body>
<main>
<h1>${escapedHtml(title)}</h1>
<p>${escapedHtml([subtitle, clockText(totalFrames / framesPerSecond(rate))].filter(Boolean).join(", "))}</p>
<a class="play" href="${film}" data-seconds="0">Play the film</a>
<ol>
${items}
</ol>
</main>
<video id="film" src="${film}" controls preload="metadata"></video>
<script>
"use strict";
const film = document.getElementById("film");
const menu = () => { film.pause(); document.body.classList.remove("plays"); };
const play = (seconds) => { document.body.classList.add("plays"); film.currentTime = seconds; film.play().catch(() => {}); film.focus(); };
for (const link of document.querySelectorAll("[data-seconds]"))
  link.addEventListener("click", (event) => { event.preventDefault(); play(Number(link.dataset.seconds)); });
film.addEventListener("ended", menu);
addEventListener("keydown", (event) => { if (event.key === "Escape" || event.key === "Backspace") menu(); });
${firstPlay === "film" ? "play(0);" : ""}
</script>
</body>
</html>
`;
}

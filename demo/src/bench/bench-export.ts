import { spawnSync } from "node:child_process";
import path from "node:path";
import type { FilmPlan } from "@humming-tide/core/film";
import { encodeFilm, FilmParts, rawVideoInput, VIDEO_FORMATS, writeMix } from "@humming-tide/server/video";
import { type DemoFilm, openDemoFilm } from "./demo-film.ts";
import { mean, median, wallSeconds } from "./measure.ts";

const FORM = { container: "mp4", quality: "fine" } as const;
const FORMAT = VIDEO_FORMATS[FORM.container];
const FRAMES = 700;
const RUNS = 3;

/**
 * Export of the demo at 1080p25 against ffmpeg alone. That reads the same frames from a yuv420p
 * file and the same sound, with the same encoder settings; runs interleaved, so that a busy machine
 * hurts both. Every slide moves and dissolves into the next; and the same with slides that stand
 * still.
 */
export async function benchExport(): Promise<void> {
  const film = await openDemoFilm(FRAMES);
  try {
    const raw = path.join(film.folder, "frames.yuv");
    const drawing = await wallSeconds(() => film.writeFrames(raw));
    const mixPath = path.join(film.folder, "mix.f32");
    const { moving, standing, flacPathOf } = film;
    await writeMix({ plan: moving, flacPathOf, mixPath, signal: new AbortController().signal });
    const [ours, stills, theirs]: [number[], number[], number[]] = [[], [], []];
    for (let run = 0; run < RUNS; run++) {
      ours.push(await wallSeconds(() => exportFilm(film, moving)));
      stills.push(await wallSeconds(() => exportFilm(film, standing)));
      theirs.push(await wallSeconds(() => encodeAlone(film, raw, mixPath)));
    }
    console.log(`  drawing alone, to a file: ${(FRAMES / drawing).toFixed(0)} frames per second`);
    tellRuns({ ours, stills, theirs });
    console.log(`  cancelled in the middle: ended after ${(await cancelSeconds(film)).toFixed(2)} s; wanted: 1`);
  } finally {
    await film.close();
  }
}

interface ExportOptions {
  readonly signal?: AbortSignal;
  readonly onFrame?: (done: number) => void;
}

async function exportFilm(
  { folder, flacPathOf, pathOfImage, openClips }: DemoFilm,
  plan: FilmPlan,
  { signal = new AbortController().signal, onFrame = () => undefined }: ExportOptions = {},
): Promise<void> {
  const parts = await FilmParts.open(path.join(folder, "parts"), plan, FORM);
  try {
    await encodeFilm({
      ...{ plan, form: FORM, flacPathOf, pathOfImage, parts, signal, onFrame, clips: openClips() },
      ...{ filmPath: path.join(folder, "ours.mp4"), title: "bench", chapters: [], posterPath: null },
    });
  } finally {
    await parts.remove();
  }
}

/** How long an export goes on after it was cancelled in the middle. */
async function cancelSeconds(film: DemoFilm): Promise<number> {
  const stop = new AbortController();
  let cancelledAt = 0;
  const onFrame = (done: number): void => {
    if (done !== Math.round(FRAMES / 2)) return;
    cancelledAt = performance.now();
    stop.abort();
  };
  await exportFilm(film, film.moving, { signal: stop.signal, onFrame }).catch(() => undefined);
  return (performance.now() - cancelledAt) / 1000;
}

/** What ffmpeg alone makes of the same frames and the same sound. */
function encodeAlone({ folder, moving }: DemoFilm, raw: string, mixPath: string): void {
  const { status, stderr } = spawnSync("ffmpeg", [
    ...["-v", "error", "-nostdin", ...rawVideoInput(moving), "-i", raw],
    ...["-f", "f32le", "-ar", "48000", "-ac", "2", "-i", mixPath, "-map", "0:v", "-map", "1:a"],
    ...FORMAT.picture(moving.rate, FORM.quality),
    ...FORMAT.sound(FORM.quality),
    ...["-movflags", "+faststart", "-y", path.join(folder, "theirs.mp4")],
  ]);
  if (status !== 0) throw new Error(stderr.toString());
}

interface Runs {
  /** Seconds of each run: moving slides, slides that stand still, ffmpeg alone. */
  readonly ours: readonly number[];
  readonly stills: readonly number[];
  readonly theirs: readonly number[];
}

function tellRuns({ ours, stills, theirs }: Runs): void {
  const fps = (seconds: readonly number[]): number => FRAMES / median(seconds);
  const all = (seconds: readonly number[]): string => seconds.map((one) => (FRAMES / one).toFixed(1)).join(", ");
  console.log(`  export: ${fps(ours).toFixed(1)} frames per second (runs: ${all(ours)})`);
  console.log(`  ffmpeg alone: ${fps(theirs).toFixed(1)} frames per second (runs: ${all(theirs)})`);
  console.log(
    `  share: ${(fps(ours) / fps(theirs)).toFixed(2)} (mean ${(mean(theirs) / mean(ours)).toFixed(2)}); wanted: 0.7`,
  );
  console.log(
    `  slides that stand still: ${fps(stills).toFixed(1)} frames per second, ` +
      `${(median(ours) / median(stills)).toFixed(2)} times as fast as moving ones; wanted: 1.4`,
  );
}

import { spawnSync } from "node:child_process";
import { mkdtemp, open, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { type FilmPlan, planFilm } from "@humming-tide/core/film";
import { AS_ABOVE, FIRST_STYLE, type ShowDocument } from "@humming-tide/core/show";
import { openStudio } from "@humming-tide/server";
import {
  ClipFrames,
  drawnFile,
  encodeFilm,
  FilmParts,
  FramePainter,
  type PathOfImage,
  rawVideoInput,
  renderFrames,
  VIDEO_FORMATS,
  writeMix,
} from "@humming-tide/server/video";
import { buildDemo } from "../build-demo.ts";
import { mean, median, wallSeconds } from "./measure.ts";

const FORM = { container: "mp4", quality: "fine" } as const;
const FORMAT = VIDEO_FORMATS[FORM.container];
const FRAMES = 700;
const RUNS = 3;

/**
 * Export of the demo at 1080p25 against ffmpeg alone, which reads the very same frames from a yuv420p file and the same sound, with the same
 * encoder settings; runs interleaved, so that a busy machine hurts both. Every slide moves and dissolves into the next; and the same with slides that stand still.
 */
export async function benchExport(): Promise<void> {
  const folder = await mkdtemp(path.join(tmpdir(), "humming-tide-bench-"));
  await buildDemo({ dataFolder: path.join(folder, "data"), songCount: 1 });
  const studio = await openStudio(path.join(folder, "data"));
  try {
    const [listed] = await studio.shelf.list();
    const show = await studio.shows.get(listed!.id);
    const document = plainStyle(show.document);
    const facts = await studio.library.filmFacts(document);
    const plan = { ...planFilm(document, facts), totalFrames: FRAMES };
    const standing = { ...planFilm({ ...document, standsStill: true }, facts), totalFrames: FRAMES };
    const { store } = studio.library;
    const flacPathOf = (sha256: string): string => store.derivedPath(sha256, "sound.flac");
    const pathOfImage: PathOfImage = (picture, of) => drawnFile(store, picture, of);
    const clips = (): ClipFrames => new ClipFrames((sha256) => store.originalPath(sha256));
    const signal = new AbortController().signal;
    const raw = path.join(folder, "frames.yuv");
    const file = await open(raw, "w");
    const drawing = await wallSeconds(() =>
      renderFrames(
        plan,
        new FramePainter(plan.size, pathOfImage, clips()),
        0,
        FRAMES,
        async (yuv) => void (await file.writeFile(yuv)),
      ),
    );
    await file.close();
    const mixPath = path.join(folder, "mix.f32");
    await writeMix({ plan, flacPathOf, mixPath, signal });

    const encode = async (film: FilmPlan, stop: AbortSignal, onFrame: (done: number) => void): Promise<void> => {
      const parts = await FilmParts.open(path.join(folder, "parts"), film, FORM);
      const filmPath = path.join(folder, "ours.mp4");
      const common = {
        plan: film,
        form: FORM,
        flacPathOf,
        pathOfImage,
        parts,
        filmPath,
        title: "bench",
        chapters: [],
        posterPath: null,
      } as const;
      try {
        await encodeFilm({ ...common, clips: clips(), signal: stop, onFrame });
      } finally {
        await parts.remove();
      }
    };
    const exported = (film: FilmPlan): Promise<number> => wallSeconds(() => encode(film, signal, () => undefined));
    const cancelSeconds = async (film: FilmPlan): Promise<number> => {
      const stop = new AbortController();
      let cancelledAt = 0;
      const onFrame = (done: number): void => {
        if (done !== Math.round(FRAMES / 2)) return;
        cancelledAt = performance.now();
        stop.abort();
      };
      await encode(film, stop.signal, onFrame).catch(() => undefined);
      return (performance.now() - cancelledAt) / 1000;
    };
    const [ours, stills, theirs]: [number[], number[], number[]] = [[], [], []];
    for (let run = 0; run < RUNS; run++) {
      ours.push(await exported(plan));
      stills.push(await exported(standing));
      theirs.push(
        await wallSeconds(() => {
          const { status, stderr } = spawnSync("ffmpeg", [
            ...["-v", "error", "-nostdin", ...rawVideoInput(plan), "-i", raw],
            ...["-f", "f32le", "-ar", "48000", "-ac", "2", "-i", mixPath, "-map", "0:v", "-map", "1:a"],
            ...[
              ...FORMAT.picture(plan.rate, FORM.quality),
              ...FORMAT.sound(FORM.quality),
              "-movflags",
              "+faststart",
              "-y",
              path.join(folder, "theirs.mp4"),
            ],
          ]);
          if (status !== 0) throw new Error(stderr.toString());
        }),
      );
    }
    console.log(`  drawing alone, to a file: ${(FRAMES / drawing).toFixed(0)} frames per second`);
    tellRuns({ ours, stills, theirs });
    console.log(`  cancelled in the middle: ended after ${(await cancelSeconds(plan)).toFixed(2)} s; wanted: 1`);
  } finally {
    await studio.close();
    await rm(folder, { recursive: true, force: true });
  }
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

/** Moves and dissolves, nothing else: what passages and slides do differently is left away. */
const plainStyle = (show: ShowDocument): ShowDocument => ({
  ...show,
  style: FIRST_STYLE,
  passages: show.passages.map((passage) => ({ ...passage, style: AS_ABOVE })),
  slides: show.slides.map((slide) => ({ ...slide, caption: "", words: [], style: AS_ABOVE })),
});

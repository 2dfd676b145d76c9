import { mkdtemp, open, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { type FilmPlan, planFilm } from "@humming-tide/core/film";
import { present } from "@humming-tide/core/presence";
import { AS_ABOVE, FIRST_STYLE, type ShowDocument } from "@humming-tide/core/show";
import { openStudio } from "@humming-tide/server";
import { ClipFrames, drawnFile, FramePainter, type PathOfImage, renderFrames } from "@humming-tide/server/video";
import { buildDemo } from "../build-demo.ts";

/** The demo's film at 1080p25, for benches that draw and encode it. */
export interface DemoFilm {
  /** For whatever the bench writes; it goes with the film. */
  readonly folder: string;
  /** Every slide moves and dissolves into the next. */
  readonly moving: FilmPlan;
  /** The same with slides that stand still. */
  readonly standing: FilmPlan;
  readonly flacPathOf: (sha256: string) => string;
  readonly pathOfImage: PathOfImage;
  readonly openClips: () => ClipFrames;
  /** Draws the moving film to a file of raw frames. */
  readonly writeFrames: (place: string) => Promise<void>;
  readonly close: () => Promise<void>;
}

/** Makes the demo in a folder of its own and plans the first `frames` frames of its film. */
export async function openDemoFilm(frames: number): Promise<DemoFilm> {
  const folder = await mkdtemp(path.join(tmpdir(), "humming-tide-bench-"));
  await buildDemo({ dataFolder: path.join(folder, "data"), songCount: 1 });
  const studio = await openStudio(path.join(folder, "data"));
  const { store } = studio.library;
  const [listed] = await studio.shelf.list();
  const document = plainStyle((await studio.shows.get(present(listed).id)).document);
  const facts = await studio.library.filmFacts(document);
  const moving = { ...planFilm(document, facts), totalFrames: frames };
  const pathOfImage: PathOfImage = (picture, of) => drawnFile(store, picture, of);
  const openClips = (): ClipFrames => new ClipFrames((sha256) => store.originalPath(sha256));
  return {
    folder,
    moving,
    standing: { ...planFilm({ ...document, standsStill: true }, facts), totalFrames: frames },
    flacPathOf: (sha256) => store.derivedPath(sha256, "sound.flac"),
    pathOfImage,
    openClips,
    async writeFrames(place) {
      const file = await open(place, "w");
      const painter = new FramePainter(moving.size, pathOfImage, openClips());
      await renderFrames(moving, painter, 0, frames, (yuv) => file.writeFile(yuv));
      await file.close();
    },
    async close() {
      await studio.close();
      await rm(folder, { recursive: true, force: true });
    },
  };
}

/** Moves and dissolves, nothing else: what passages and slides do differently is left away. */
const plainStyle = (show: ShowDocument): ShowDocument => ({
  ...show,
  style: FIRST_STYLE,
  passages: show.passages.map((passage) => ({ ...passage, style: AS_ABOVE })),
  slides: show.slides.map((slide) => ({ ...slide, caption: "", words: [], style: AS_ABOVE })),
});

import { existsSync } from "node:fs";
import { parentPort, workerData } from "node:worker_threads";
import type { CheckFacts } from "@humming-tide/contract";
import { type ErrorData, HummingTideError } from "@humming-tide/core";
import {
  checkBars,
  checkFilm,
  checkFlashesOf,
  checkLevels,
  type Finding,
  filmsToCheck,
  landingSummary,
  sortedFindings,
} from "@humming-tide/core/check";
import { factsOf, planFilm } from "@humming-tide/core/film";
import { itemAt, present } from "@humming-tide/core/presence";
import type { ShowDocument } from "@humming-tide/core/show";
import type { DataFolder } from "../data-folder.ts";
import { jobError } from "../jobs/job-errors.ts";
import { CLIP_FILES } from "../media/clip-intake.ts";
import { ContentStore } from "../media/content-store.ts";
import { drawnFile } from "../media/drawn-file.ts";
import { SONG_FILES } from "../media/song-intake.ts";
import { readFacts, type StoredFacts } from "../media/stored-facts.ts";
import { ClipFrames } from "../outputs/video/clip-frames.ts";
import { measureMix } from "../outputs/video/write-mix.ts";
import { type SeenFilm, watchFilm } from "./watch-film.ts";

export interface CheckTask {
  readonly folder: DataFolder;
  readonly document: ShowDocument;
  readonly facts: StoredFacts;
  /** For what is unpacked meanwhile; the caller removes it. */
  readonly unpackedFolder: string;
}

export type CheckMessage =
  | { readonly kind: "progress"; readonly step: string; readonly progress: number }
  | { readonly kind: "done"; readonly findings: readonly Finding[]; readonly facts: Omit<CheckFacts, "files"> }
  | { readonly kind: "failed"; readonly error: ErrorData };

/** Drawing takes about this much of the time. */
const DRAWING_SHARE = 0.8;
const PROGRESS_EVERY_MS = 100;

const task = workerData as CheckTask;
const port = present(parentPort);
const say = (message: CheckMessage): void => port.postMessage(message);
const cancel = new AbortController();
port.once("message", () => cancel.abort(jobError("cancelled")));

let saidAt = 0;
const tell = (step: string, progress: number): void => {
  if (Date.now() - saidAt < PROGRESS_EVERY_MS) return;
  saidAt = Date.now();
  say({ kind: "progress", step, progress });
};

const store = new ContentStore(task.folder);
/** Of a clip whose file is gone its playable copy is looked at. */
const clips = new ClipFrames((sha256) => {
  const original = store.originalPath(sha256);
  return existsSync(original) ? original : store.derivedPath(sha256, CLIP_FILES.proxy);
});
try {
  const facts = factsOf(readFacts(task.facts));
  const plan = planFilm(task.document, facts);
  const films = filmsToCheck(task.document, plan, facts);
  const frames = films.reduce((sum, film) => sum + film.plan.totalFrames, 0);
  const seen: SeenFilm[] = [];
  let before = 0;
  for (const film of films) {
    seen.push(
      await watchFilm(
        film.plan,
        (picture, of) => drawnFile(store, picture, of),
        clips,
        cancel.signal,
        (done) => tell("Looking at every frame", (DRAWING_SHARE * (before + done)) / frames),
      ),
    );
    before += film.plan.totalFrames;
  }
  const { after } = await measureMix({
    plan,
    flacPathOf: (soundName) => store.derivedPath(soundName, SONG_FILES.sound),
    folder: task.unpackedFolder,
    signal: cancel.signal,
    onProgress: (share) => tell("Listening to the sound", DRAWING_SHARE + (1 - DRAWING_SHARE) * share),
  });
  say({
    kind: "done",
    findings: sortedFindings([
      ...checkFilm(task.document, plan, facts),
      ...checkFlashesOf(
        films,
        seen.map(({ flashes }) => flashes),
      ),
      // Bars are in pictures, whatever the shape of a film.
      ...checkBars(plan, itemAt(seen, 0).bars),
      ...checkLevels(task.document, after),
    ]),
    facts: {
      frames,
      landings: landingSummary(plan),
      levels: { integratedLufs: after.integratedLufs, truePeakDbtp: after.truePeakDbtp },
    },
  });
} catch (error) {
  const known = error instanceof HummingTideError ? error : jobError("check-failed", { why: (error as Error).message });
  say({ kind: "failed", error: known.data });
} finally {
  clips.close();
}
port.close();

import type { FilmMeasurement } from "@humming-tide/contract";
import {
  frameDifference,
  indexOfShownChange,
  shareOfAfter,
  soundLag,
  VISIBLE_DIFFERENCE,
} from "@humming-tide/core/check";
import type { FilmReport } from "@humming-tide/core/interchange";
import { decodeMono } from "../media/decode-sound.ts";
import { LOOK, readFilmFacts, readSmallFrames } from "./read-film.ts";

/** Half a frame, and a hundredth of one for the rounding of container time stamps. */
const LARGEST_ERROR_FRAMES = 0.51;
const LARGEST_LAG_MS = 10;
const LARGEST_UNSEEN_SHARE = 0.1;
/** How far beside the plan a change is looked for, in frames, where the neighbours leave room. */
const SEARCH_FRAMES = 12;
const LAG_SAMPLE_RATE = 48_000;
const LAG_PLACES = 5;
const LAG_WINDOW_SECONDS = 6;
const LAG_REACH_SECONDS = 0.5;

type Change = FilmMeasurement["changes"][number];

/**
 * Measures a film from its decoded pixels and sound alone and lays the result beside the plan: at which frame each change is
 * seen, how far from its beat that frame is shown, and how far the music lies from where it should be. `onProgress` hears 0 to 1.
 */
export async function verifyFilm(
  filmPath: string,
  report: FilmReport,
  musicPath: string,
  onProgress: (share: number) => void = () => undefined,
): Promise<FilmMeasurement> {
  const facts = await readFilmFacts(filmPath);
  const plannedFrames = report.slots.at(-1)!.endFrame;
  const looks = new Uint8Array(facts.frameSeconds.length * LOOK.bytes);
  let count = 0;
  for await (const frame of readSmallFrames(filmPath)) {
    if (count < facts.frameSeconds.length) looks.set(frame, count * LOOK.bytes);
    count++;
    if (count % 100 === 0) onProgress((0.8 * count) / facts.frameSeconds.length);
  }
  const frames = {
    count: Math.min(count, facts.frameSeconds.length),
    at: (i: number) => looks.subarray(i * LOOK.bytes, (i + 1) * LOOK.bytes),
  };
  const unseen: FilmMeasurement["unseen"] = [];
  const changes = report.slots.slice(1).map((_, i) => measureChange(report, i + 1, frames, facts.frameSeconds, unseen));
  const sound = await measureSound(filmPath, musicPath, report);
  onProgress(1);
  const errors = changes.flatMap((change) =>
    change.measuredErrorFrames === null ? [] : [Math.abs(change.measuredErrorFrames)],
  );
  const problems = [
    ...frameProblems(count, plannedFrames, facts.frameSeconds, report),
    ...changeProblems(changes, unseen),
    ...soundProblems(sound),
  ];
  return {
    ok: problems.length === 0,
    film: { frames: count, plannedFrames, width: facts.width, height: facts.height },
    changes,
    largestErrorFrames: errors.length ? Math.max(...errors) : null,
    unseen,
    sound,
    problems,
  };
}

interface Looks {
  readonly count: number;
  at(index: number): Uint8Array;
}

function measureChange(
  report: FilmReport,
  index: number,
  looks: Looks,
  frameSeconds: readonly number[],
  unseen: FilmMeasurement["unseen"],
): Change {
  const slot = report.slots[index]!;
  const landingSeconds = slot.landingSeconds ?? 0;
  const change: Change = {
    index,
    source: slot.source,
    kind: slot.transitionIn.kind,
    plannedFrame: slot.startFrame,
    measuredFrame: null,
    landingSeconds,
    plannedErrorMs: slot.landingErrorMs ?? 0,
    measuredErrorMs: null,
    measuredErrorFrames: null,
  };
  const missed = (reason: string): Change => {
    unseen.push({ index, source: slot.source, reason });
    return change;
  };
  const { from, to } = searchRange(report, index, looks.count);
  if (to - from < 1) return missed("the film has ended before it");
  const [before, after] = [looks.at(from), looks.at(to)];
  if (frameDifference(before, after) < VISIBLE_DIFFERENCE) return missed("the pictures before and after look the same");
  const shares = Array.from({ length: to - from + 1 }, (_, i) => shareOfAfter(looks.at(from + i), before, after));
  const at = indexOfShownChange(shares);
  if (at === null) return missed("no change was found near it");
  const measuredFrame = from + at;
  const measuredErrorMs = 1000 * (frameSeconds[measuredFrame]! - landingSeconds);
  return {
    ...change,
    measuredFrame,
    measuredErrorMs,
    measuredErrorFrames: (measuredErrorMs * report.fps.num) / (1000 * report.fps.den),
  };
}

/**
 * First and last frame to look at for a change: both ends show one picture alone, a dozen frames beside the planned transition, but
 * never inside the transitions next to it.
 */
function searchRange(report: FilmReport, index: number, count: number): { from: number; to: number } {
  const { slots } = report;
  const { transitionIn, startFrame } = slots[index]!;
  const first = Math.min(transitionIn.startFrame, startFrame) - 1;
  const last = Math.max(transitionIn.endFrame, startFrame);
  const earliest = Math.min(
    first,
    index > 1 ? Math.max(slots[index - 1]!.transitionIn.endFrame, slots[index - 1]!.startFrame) : 0,
  );
  const next = slots[index + 1];
  const latest = Math.max(
    last,
    (next ? Math.min(next.transitionIn.startFrame, next.startFrame) : slots[index]!.endFrame) - 1,
  );
  return {
    from: Math.max(0, earliest, first - SEARCH_FRAMES),
    to: Math.min(count - 1, latest, last + SEARCH_FRAMES),
  };
}

async function measureSound(
  filmPath: string,
  musicPath: string,
  report: FilmReport,
): Promise<FilmMeasurement["sound"]> {
  const { filmStartSeconds, songStartSeconds } = report.music;
  const [film, song] = await Promise.all([
    decodeMono(filmPath, LAG_SAMPLE_RATE),
    decodeMono(musicPath, LAG_SAMPLE_RATE),
  ]);
  const shared = Math.min(
    report.durationSeconds - filmStartSeconds,
    song.samples.length / LAG_SAMPLE_RATE - songStartSeconds,
  );
  const window = Math.min(LAG_WINDOW_SECONDS, shared);
  const piece = (samples: Float32Array, seconds: number): Float32Array => {
    const from = Math.round(seconds * LAG_SAMPLE_RATE);
    return samples.subarray(from, from + Math.round(window * LAG_SAMPLE_RATE));
  };
  const places: FilmMeasurement["sound"]["places"] = [];
  for (let i = 0; i < LAG_PLACES && shared > 0; i++) {
    const offset = ((shared - window) * i) / (LAG_PLACES - 1);
    const lag = soundLag(
      piece(song.samples, songStartSeconds + offset),
      piece(film.samples, filmStartSeconds + offset),
      Math.round(Math.min(LAG_REACH_SECONDS, window / 2) * LAG_SAMPLE_RATE),
    );
    if (lag)
      places.push({
        filmSeconds: filmStartSeconds + offset,
        lagMs: (1000 * lag.samples) / LAG_SAMPLE_RATE,
        match: lag.match,
      });
  }
  const lagMs = places.reduce<number | null>(
    (worst, place) => (worst === null || Math.abs(place.lagMs) > Math.abs(worst) ? place.lagMs : worst),
    null,
  );
  const silent = !song.samples.some((sample) => Math.abs(sample) > 1e-3);
  return { lagMs: silent ? null : lagMs, songSilent: silent, places };
}

function frameProblems(count: number, planned: number, frameSeconds: readonly number[], report: FilmReport): string[] {
  const problems: string[] = [];
  if (count !== planned) problems.push(`The film has ${count} frames, but ${planned} were planned.`);
  const step = report.fps.den / report.fps.num;
  const uneven = frameSeconds.findIndex((seconds, i) => Math.abs(seconds - i * step) > 0.1 * step);
  if (uneven >= 0) {
    problems.push(
      `Frame ${uneven} is shown at ${frameSeconds[uneven]!.toFixed(4)} s, but at ${report.fps.num}/${report.fps.den} frames per second it belongs at ${(uneven * step).toFixed(4)} s.`,
    );
  }
  return problems;
}

function changeProblems(changes: readonly Change[], unseen: FilmMeasurement["unseen"]): string[] {
  const problems = changes
    .filter(
      (change) => change.measuredErrorFrames !== null && Math.abs(change.measuredErrorFrames) > LARGEST_ERROR_FRAMES,
    )
    .map(
      (change) =>
        `The change to slot ${change.index} (${change.source}) is ${change.measuredErrorFrames!.toFixed(2)} frames (${change.measuredErrorMs!.toFixed(1)} ms) off its landing.`,
    );
  if (changes.length > 0 && unseen.length / changes.length > LARGEST_UNSEEN_SHARE) {
    problems.push(`${unseen.length} of ${changes.length} changes cannot be seen in the film.`);
  }
  return problems;
}

function soundProblems(sound: FilmMeasurement["sound"]): string[] {
  if (sound.songSilent) return [];
  if (sound.lagMs === null)
    return ["The film's sound could not be compared with the song: one of them is silent where they meet."];
  const lost = sound.places.find((place) => place.match < LOWEST_MATCH);
  if (lost)
    return [`The film's sound at ${lost.filmSeconds.toFixed(1)} s is not the song's (match ${lost.match.toFixed(2)}).`];
  return Math.abs(sound.lagMs) > LARGEST_LAG_MS
    ? [`The music is ${sound.lagMs.toFixed(1)} ms off where it should be.`]
    : [];
}

/** Encoded music matches its source at 0.9 and more; another song, or silence under hiss, stays below this. */
const LOWEST_MATCH = 0.3;

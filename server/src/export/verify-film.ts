import type { FilmMeasurement } from "@humming-tide/contract";
import { frameDifference, indexOfShownChange, shareOfAfter, VISIBLE_DIFFERENCE } from "@humming-tide/core/check";
import type { FilmReport } from "@humming-tide/core/interchange";
import { halfwayFrame, type PlannedTransition } from "@humming-tide/core/picture";
import { measureSound, soundProblems } from "./measure-sound.ts";
import { readFilmFacts, readSmallFrames } from "./read-film.ts";

/** Half a frame, and a hundredth of one for the rounding of container time stamps. */
const LARGEST_ERROR_FRAMES = 0.51;
const LARGEST_UNSEEN_SHARE = 0.1;
/** How far beside the plan a change is looked for, in frames, where the neighbours leave room. */
const SEARCH_FRAMES = 12;

type Change = FilmMeasurement["changes"][number];

/**
 * Measures a film from its decoded pixels and sound alone and lays the result beside the plan: at which frame each change is
 * seen, how far from its beat that frame is shown, and how far the music lies from where it should be. `onProgress` hears 0 to 1.
 */
export async function verifyFilm(
  filmPath: string,
  report: FilmReport,
  songPathOf: (sha256: string) => string,
  onProgress: (share: number) => void = () => undefined,
): Promise<FilmMeasurement> {
  const facts = await readFilmFacts(filmPath);
  const plannedFrames = report.slots.at(-1)!.endFrame;
  const needed = neededFrames(report);
  const looks = new Map<number, Uint8Array>();
  let count = 0;
  for await (const frame of readSmallFrames(filmPath)) {
    if (needed.has(count)) looks.set(count, frame);
    count++;
    if (count % 100 === 0) onProgress((0.8 * count) / facts.frameSeconds.length);
  }
  const frames = {
    count: Math.min(count, facts.frameSeconds.length),
    at: (i: number) => looks.get(i)!,
  };
  const unseen: FilmMeasurement["unseen"] = [];
  const changes = report.slots.slice(1).map((_, i) => measureChange(report, i + 1, frames, facts.frameSeconds, unseen));
  const sound = await measureSound(filmPath, songPathOf, report);
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
  // Half of each picture is seen as far behind the frame that is meant to land as the plan says, and that frame leads the landing.
  const halfway = halfwayFrame(slot.transitionIn as PlannedTransition) - slot.startFrame;
  const frameLength = report.fps.den / report.fps.num;
  const measuredFrame = from + at - halfway;
  const shownSeconds = frameSeconds[from + at]! + ((report.leadFrames ?? 0) - halfway) * frameLength;
  const measuredErrorMs = 1000 * (shownSeconds - landingSeconds);
  return {
    ...change,
    measuredFrame,
    measuredErrorMs,
    measuredErrorFrames: (measuredErrorMs * report.fps.num) / (1000 * report.fps.den),
  };
}

/** All frames that some change will be looked for in; the others need not be kept, so memory follows the changes, not the length. */
function neededFrames(report: FilmReport): ReadonlySet<number> {
  const needed = new Set<number>();
  for (let index = 1; index < report.slots.length; index++) {
    const { from, to } = searchRange(report, index, Number.POSITIVE_INFINITY);
    for (let frame = from; frame <= to; frame++) needed.add(frame);
  }
  return needed;
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

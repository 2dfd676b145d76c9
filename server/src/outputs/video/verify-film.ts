import type { FilmMeasurement } from "@humming-tide/contract";
import type { FilmReport } from "@humming-tide/core/interchange";
import {
  ChangeWatch,
  frameDifference,
  indexOfShownChange,
  type SeenChange,
  sharesOf,
  shiftOfShares,
  VISIBLE_DIFFERENCE,
} from "@humming-tide/core/measure";
import { halfwayFrame } from "@humming-tide/core/picture";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import { measureSound, soundProblems } from "./measure-sound.ts";
import { readFilmFacts, readSmallFrames } from "./read-film.ts";

/** Half a frame, and a hundredth of one for the rounding of container time stamps. */
const LARGEST_ERROR_FRAMES = 0.51;
const LARGEST_UNSEEN_SHARE = 0.1;

type Change = FilmMeasurement["changes"][number];

/**
 * Measures a film from its decoded pixels and sound alone and lays the result beside the plan: at
 * which frame each change is seen, how far from its beat that is, and how far the music lies from
 * where it should be. `onProgress` hears 0 to 1.
 */
export async function verifyFilm(
  filmPath: string,
  report: FilmReport,
  songPathOf: (sha256: string) => string,
  onProgress: (share: number) => void = () => undefined,
): Promise<FilmMeasurement> {
  const facts = await readFilmFacts(filmPath);
  const plannedFrames = lastOf(report.slots).endFrame;
  const unseen: FilmMeasurement["unseen"] = [];
  const changes: Change[] = [];
  const watch = new ChangeWatch(report.slots, (seen) =>
    changes.push(measureChange(report, seen, facts.frameSeconds, unseen)),
  );
  let count = 0;
  for await (const look of readSmallFrames(filmPath)) {
    if (watch.wants(count)) watch.take(count, look);
    count++;
    if (count % 100 === 0) onProgress((0.8 * count) / facts.frameSeconds.length);
  }
  watch.end(Math.min(count, facts.frameSeconds.length));
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

function measureChange(
  report: FilmReport,
  seen: SeenChange,
  frameSeconds: readonly number[],
  unseen: FilmMeasurement["unseen"],
): Change {
  const { index, fromFrame, smallFrames } = seen;
  const slot = itemAt(report.slots, index);
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
  if (smallFrames.length < 2) return missed("the film has ended before it");
  if (frameDifference(itemAt(smallFrames, 0), lastOf(smallFrames)) < VISIBLE_DIFFERENCE) {
    return missed("the pictures before and after look the same");
  }
  const lies = changeLiesAt(slot, fromFrame, sharesOf(seen));
  if (!lies) return missed("no change was found near it");
  const frameLength = report.fps.den / report.fps.num;
  // The frame that is meant to land leads the landing.
  const { measuredFrame, shownFrame } = lies;
  const behind = shownFrame - measuredFrame;
  const shownSeconds = itemAt(frameSeconds, shownFrame) + ((report.leadFrames ?? 0) - behind) * frameLength;
  const measuredErrorMs = 1000 * (shownSeconds - landingSeconds);
  return {
    ...change,
    measuredFrame,
    measuredErrorMs,
    measuredErrorFrames: (measuredErrorMs * report.fps.num) / (1000 * report.fps.den),
  };
}

/**
 * Where a change lies in the film: the frame that was meant to land, and one that was seen and
 * tells it.
 */
interface LyingChange {
  readonly measuredFrame: number;
  readonly shownFrame: number;
}

/**
 * Pictures that stand still tell by themselves when half of each is seen. Where something moves, or
 * a transition has a shape, its shares are compared with those of the frames as they were drawn.
 */
function changeLiesAt(
  slot: FilmReport["slots"][number],
  fromFrame: number,
  shares: readonly number[],
): LyingChange | null {
  if (slot.drawnShares) {
    const measuredFrame = slot.startFrame + shiftOfShares(shares, slot.drawnShares);
    return { measuredFrame, shownFrame: measuredFrame };
  }
  const at = indexOfShownChange(shares);
  if (at === null) return null;
  // Half of each picture is seen as far behind the frame that is meant to land as the plan says.
  return {
    measuredFrame: fromFrame + at - (halfwayFrame(slot.transitionIn) - slot.startFrame),
    shownFrame: fromFrame + at,
  };
}

function frameProblems(count: number, planned: number, frameSeconds: readonly number[], report: FilmReport): string[] {
  const problems: string[] = [];
  if (count !== planned) problems.push(`The film has ${count} frames, but ${planned} were planned.`);
  const step = report.fps.den / report.fps.num;
  const uneven = frameSeconds.findIndex((seconds, i) => Math.abs(seconds - i * step) > 0.1 * step);
  if (uneven >= 0) {
    problems.push(
      `Frame ${uneven} is shown at ${itemAt(frameSeconds, uneven).toFixed(4)} s, but at ` +
        `${report.fps.num}/${report.fps.den} frames per second it belongs at ${(uneven * step).toFixed(4)} s.`,
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
        `The change to slot ${change.index} (${change.source}) is ` +
        `${present(change.measuredErrorFrames).toFixed(2)} frames ` +
        `(${present(change.measuredErrorMs).toFixed(1)} ms) off its landing.`,
    );
  if (changes.length > 0 && unseen.length / changes.length > LARGEST_UNSEEN_SHARE) {
    problems.push(`${unseen.length} of ${changes.length} changes cannot be seen in the film.`);
  }
  return problems;
}

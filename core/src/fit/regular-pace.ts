import type { Pace } from "../show/index.ts";
import type { LandingCandidate } from "./landing-candidates.ts";

/**
 * The landings of a fixed pace: every bar start, or every n-th beat counted from the first bar start in both
 * directions. The first and the last are skipped where they would leave a slot of less than half the usual length.
 */
export function regularLandings(
  candidates: readonly LandingCandidate[],
  request: { readonly pace: Pace; readonly beatsPerBar: number; readonly endSeconds: number },
): LandingCandidate[] {
  const { pace, endSeconds } = request;
  const anchor = candidates.find((candidate) => candidate.kind === "bar")?.beatIndex ?? candidates[0]?.beatIndex ?? 0;
  const every = pace.kind === "beats" ? pace.count : request.beatsPerBar;
  const chosen = candidates.filter((candidate) =>
    pace.kind === "bar" ? candidate.kind === "bar" : (candidate.beatIndex - anchor) % every === 0,
  );
  const gaps = chosen.slice(1).map((landing, i) => landing.seconds - chosen[i]!.seconds);
  const usual = gaps.sort((a, b) => a - b)[Math.floor(gaps.length / 2)] ?? 0;
  return chosen.filter((landing) => landing.seconds >= usual / 2 && endSeconds - landing.seconds >= usual / 2);
}

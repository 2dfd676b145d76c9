import type { FilmPlan } from "@humming-tide/core/film";
import { frameStart } from "@humming-tide/core/time";

type SlotsOfPlan = Pick<FilmPlan, "slots" | "rate">;

/** The length of each slot as a step over its time: two points a slot. */
export function rhythmSteps({ slots, rate }: SlotsOfPlan): { x: number; y: number }[] {
  return slots.flatMap(({ startFrame, endFrame }) => {
    const y = frameStart(endFrame - startFrame, rate);
    return [
      { x: frameStart(startFrame, rate), y },
      { x: frameStart(endFrame, rate), y },
    ];
  });
}

export function shortestAndLongest({ slots, rate }: SlotsOfPlan): { shortest: number; longest: number } {
  let [shortest, longest] = [Infinity, 0];
  for (const { startFrame, endFrame } of slots) {
    const length = frameStart(endFrame - startFrame, rate);
    shortest = Math.min(shortest, length);
    longest = Math.max(longest, length);
  }
  return { shortest, longest };
}

import type { FilmPlan } from "@humming-tide/core/film";

/** Where a slide began before. */
interface MovedLanding {
  readonly slideId: string;
  readonly fromSeconds: number;
  readonly toSeconds: number;
}

/** What lies elsewhere in a film than in the one before it. */
export interface MovedLandings {
  readonly moved: readonly MovedLanding[];
  /** How many slides begin where they did. */
  readonly stayed: number;
  /** Ids of slides that one of the two films does not show. */
  readonly came: readonly string[];
  readonly went: readonly string[];
}

/** Nobody sees less: far under a frame at any rate. */
const SAME_SECONDS = 0.001;

/**
 * Compares where slides begin the first time that they are shown; null where all is as it was.
 * O(slots).
 */
export function movedLandings(before: FilmPlan, after: FilmPlan): MovedLandings | null {
  const was = beginnings(before);
  const is = beginnings(after);
  const moved: MovedLanding[] = [];
  let stayed = 0;
  for (const [slideId, toSeconds] of is) {
    const fromSeconds = was.get(slideId);
    if (fromSeconds === undefined) continue;
    if (Math.abs(toSeconds - fromSeconds) > SAME_SECONDS) moved.push({ slideId, fromSeconds, toSeconds });
    else stayed++;
  }
  const came = [...is.keys()].filter((id) => !was.has(id));
  const went = [...was.keys()].filter((id) => !is.has(id));
  return moved.length + came.length + went.length === 0 ? null : { moved, stayed, came, went };
}

const beginnings = (plan: FilmPlan): Map<string, number> =>
  new Map(plan.slots.filter((slot) => slot.round === 0).map((slot) => [slot.slideId, slot.landing?.seconds ?? 0]));

import type { FitRequest, FitResult } from "./fit-request.ts";

/**
 * Where each slide begins in the plan without locks, in seconds of the film, by `plannedKey`. A slide
 * would rather keep its place, so that a lock moves what is near it. It follows from the show alone:
 * nothing has to be remembered of what was seen before.
 */
export type PlannedStarts = ReadonlyMap<string, number>;

const NOTHING_PLANNED: PlannedStarts = new Map();

/** The key of a slide (index among the slides asked for) in the round in which it is shown. */
export const plannedKey = (slideIndex: number, round: number): string => `${slideIndex} ${round}`;

/** The plan of a request that was asked for last: while a person drags a lock it stays the same. */
let last: { readonly key: string; readonly starts: PlannedStarts } | null = null;

/** The starts of a request with locks; none where nobody locked anything, or it is not asked for. `fit` lays a request. */
export function plannedStarts(request: FitRequest, fit: (unlocked: FitRequest) => FitResult): PlannedStarts {
  if (!request.keepsPlan || !hasLocks(request)) return NOTHING_PLANNED;
  const unlocked = withoutLocks(request);
  const key = keyOf(unlocked);
  if (last?.key !== key) last = { key, starts: startsOf(fit(unlocked)) };
  return last.starts;
}

const startsOf = ({ slots }: FitResult): PlannedStarts =>
  new Map(
    slots.map(({ slideIndex, round, landing }) => [plannedKey(slideIndex, round), landing?.seconds ?? 0] as const),
  );

const hasLocks = ({ slides, passages }: FitRequest): boolean =>
  slides.some((slide) => slide.landingLockSeconds !== null || slide.lengthLockSeconds !== null) ||
  passages.some(({ startLockSeconds }) => startLockSeconds !== null);

/** The same film as if nobody had locked anything. A locked length is a wish too, and goes with its lock. */
const withoutLocks = (request: FitRequest): FitRequest => ({
  ...request,
  slides: request.slides.map((slide) => ({
    ...slide,
    wishedSeconds: slide.lengthLockSeconds === null ? slide.wishedSeconds : null,
    lengthLockSeconds: null,
    landingLockSeconds: null,
    landingLockExact: false,
  })),
  passages: request.passages.map((passage) => ({ ...passage, startLockSeconds: null })),
});

/** All that a plan depends on, as text; loudness where it is asked for, on beats and between them. */
function keyOf({ music, ...rest }: FitRequest): string {
  const { loudnessAt, ...plain } = music;
  const end = rest.ends.at(-1)?.seconds ?? 0;
  const loudness = Array.from({ length: Math.ceil(2 * end) }, (_, step) => loudnessAt((step + 0.5) / 2));
  return JSON.stringify([rest, plain, loudness]);
}

import type { FitRequest, FitResult } from "./fit-request.ts";

/**
 * Where each slide begins in the plan without locks, in seconds of the film, by `plannedKey`. After
 * "Fit again" the locks of that moment count too. A slide would rather keep its place, so that a
 * lock moves what is near it. It follows from the show alone: nothing has to be remembered of what
 * was seen before.
 */
export type PlannedStarts = ReadonlyMap<string, number>;

const NOTHING_PLANNED: PlannedStarts = new Map();

/** The key of a slide (index among the slides asked for) in the round in which it is shown. */
export const plannedKey = (slideIndex: number, round: number): string => `${slideIndex} ${round}`;

/** The plan of a request that was asked for last: while a person drags a lock it stays the same. */
let last: { readonly key: string; readonly starts: PlannedStarts } | null = null;

/**
 * The starts of a request whose locks are not those of its plan; none where they are, or it is not
 * asked for. `fit` lays a request.
 */
export function plannedStarts(request: FitRequest, fit: (plan: FitRequest) => FitResult): PlannedStarts {
  if (!request.keepsPlan) return NOTHING_PLANNED;
  const plan = withPlanLocks(request);
  if (sameLocks(request, plan)) return NOTHING_PLANNED;
  const key = keyOf(plan);
  if (last?.key !== key) last = { key, starts: startsOf(fit(plan)) };
  return last.starts;
}

const startsOf = ({ slots }: FitResult): PlannedStarts =>
  new Map(
    slots.map(({ slideIndex, round, landing }) => [plannedKey(slideIndex, round), landing?.seconds ?? 0] as const),
  );

/**
 * The same film with the settled locks alone. A locked length is a wish too, and goes with its
 * lock.
 */
function withPlanLocks(request: FitRequest): FitRequest {
  const settled = new Map(request.settledLocks.map((lock) => [`${lock.kind} ${lock.id}`, lock]));
  return {
    ...request,
    slides: request.slides.map((slide) => {
      const landing = settled.get(`landing ${slide.id}`);
      const length = settled.get(`length ${slide.id}`)?.seconds ?? null;
      return {
        ...slide,
        wishedSeconds: length ?? (slide.lengthLockSeconds === null ? slide.wishedSeconds : null),
        lengthLockSeconds: length,
        landingLockSeconds: landing?.seconds ?? null,
        landingLockExact: landing?.exact ?? false,
      };
    }),
    passages: request.passages.map((passage) => ({
      ...passage,
      startLockSeconds: settled.get(`passage ${passage.id}`)?.seconds ?? null,
    })),
  };
}

function sameLocks(a: FitRequest, b: FitRequest): boolean {
  const locksOf = ({ slides, passages }: FitRequest) => [
    slides.map((slide) => [slide.landingLockSeconds, slide.landingLockExact, slide.lengthLockSeconds]),
    passages.map(({ startLockSeconds }) => startLockSeconds),
  ];
  return JSON.stringify(locksOf(a)) === JSON.stringify(locksOf(b));
}

/**
 * All that a plan depends on, as text; loudness where it is asked for, on beats and between them.
 */
function keyOf({ music, ...rest }: FitRequest): string {
  const { loudnessAt, ...plain } = music;
  const end = rest.ends.at(-1)?.seconds ?? 0;
  const loudness = Array.from({ length: Math.ceil(2 * end) }, (_, step) => loudnessAt((step + 0.5) / 2));
  return JSON.stringify([rest, plain, loudness]);
}

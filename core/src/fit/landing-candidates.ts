/** A beat as the solver sees it: plain data, so that fit and music need not know each other. */
export interface BeatForFit {
  readonly seconds: number;
  /** 1 starts a bar, 0 is unknown. */
  readonly position: number;
}

/** An instant that a change of picture may be laid on. */
export interface LandingCandidate {
  readonly seconds: number;
  readonly kind: "bar" | "beat" | "even";
  /** 0 to 1: how good a place it is; a bar start has 1. */
  readonly strength: number;
  /** Index of the beat, or of the even step. */
  readonly beatIndex: number;
}

const BEAT_STRENGTH = 0.4;
/** Without a beat, changes may come at any half second. */
const EVEN_STEP_SECONDS = 0.5;
/** A change this close to the start or the end of the film would not be seen as one. */
const EDGE_SECONDS = 0.4;

/** The landings inside a film of `endSeconds`, in order of time. Where there are no beats: even half seconds. */
export function landingCandidates(beats: readonly BeatForFit[], endSeconds: number): LandingCandidate[] {
  const inside = (seconds: number): boolean => seconds >= EDGE_SECONDS && seconds <= endSeconds - EDGE_SECONDS;
  if (beats.length === 0) {
    const count = Math.max(0, Math.ceil(endSeconds / EVEN_STEP_SECONDS) - 1);
    return Array.from({ length: count }, (_, i): LandingCandidate => {
      return { seconds: (i + 1) * EVEN_STEP_SECONDS, kind: "even", strength: 1, beatIndex: i + 1 };
    }).filter((candidate) => inside(candidate.seconds));
  }
  return beats
    .map((beat, beatIndex): LandingCandidate => {
      const bar = beat.position === 1;
      return { seconds: beat.seconds, kind: bar ? "bar" : "beat", strength: bar ? 1 : BEAT_STRENGTH, beatIndex };
    })
    .filter((candidate) => inside(candidate.seconds));
}

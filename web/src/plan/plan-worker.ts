import { HummingTideError } from "@humming-tide/core";
import type { ArrangedMusic } from "@humming-tide/core/arrange";
import { checkFilm, type Finding } from "@humming-tide/core/check";
import {
  type FilmFacts,
  type FilmPlan,
  factsOf,
  fitShow,
  type PlainFacts,
  planFilm,
  searchWaysOut,
  type WayOut,
} from "@humming-tide/core/film";
import { fitError } from "@humming-tide/core/fit";
import type { ShowDocument } from "@humming-tide/core/show";

/**
 * What is known of the files of a show. It is large and seldom changes, so it is sent by itself,
 * before the first document and when it changes.
 */
export interface PlanFacts extends PlainFacts {
  readonly kind: "facts";
}

export interface PlanRequest {
  readonly kind: "plan";
  readonly document: ShowDocument;
}

export type PlanAnswer =
  /** Music is null where it is that of the answer before. */
  | { readonly kind: "planned"; readonly plan: Omit<FilmPlan, "music">; readonly music: ArrangedMusic | null }
  | { readonly kind: "failed"; readonly code: string; readonly message: string }
  /**
   * What would make slides and music of the plan before agree: comes behind it, because each is a
   * solve of its own.
   */
  | { readonly kind: "waysOut"; readonly waysOut: readonly WayOut[] }
  /** What should be looked at in the film of the plan before, before it is handed over. */
  | { readonly kind: "checked"; readonly findings: readonly Finding[] };

/**
 * The film is checked, and ways out are looked for, when nothing newer was asked for this long: a
 * drag asks again and again. The search pauses after each solve, and ends where something newer is
 * asked.
 */
const QUIET_MS = 120;
let waiting: ReturnType<typeof setTimeout> | undefined;
let facts: FilmFacts = factsOf({ analyses: {}, seen: {}, speech: {} });
/** What the page has of the music, as text. */
let knownMusic = "";

self.onmessage = ({ data }: MessageEvent<PlanFacts | PlanRequest>) => {
  if (data.kind === "facts") {
    facts = factsOf(data);
    return;
  }
  clearTimeout(waiting);
  const { document } = data;
  const plan = answer(document);
  if (!plan) return;
  waiting = setTimeout(() => {
    self.postMessage({ kind: "checked", findings: checkFilm(document, plan, facts) } satisfies PlanAnswer);
    if (plan.leftOut.length + plan.repeats + plan.unmetLocks.length === 0) return;
    const search = searchWaysOut(document, fitShow(document, facts), facts);
    const goOn = (): void => {
      const step = search.next();
      if (step.done) self.postMessage({ kind: "waysOut", waysOut: step.value } satisfies PlanAnswer);
      else waiting = setTimeout(goOn);
    };
    goOn();
  }, QUIET_MS);
};

/** Posts the film of a document, or why there is none. */
function answer(document: ShowDocument): FilmPlan | null {
  try {
    if (document.songs.length === 0) throw fitError("no-song");
    const whole = planFilm(document, facts);
    const { music, ...plan } = whole;
    const text = JSON.stringify(music);
    const isNew = text !== knownMusic;
    knownMusic = text;
    self.postMessage({ kind: "planned", plan, music: isNew ? music : null } satisfies PlanAnswer);
    return whole;
  } catch (error) {
    const code = error instanceof HummingTideError ? error.code : "plan-failed";
    self.postMessage({ kind: "failed", code, message: (error as Error).message } satisfies PlanAnswer);
    return null;
  }
}

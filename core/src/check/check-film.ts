import { type FilmFacts, type FilmPlan, filmInSize, planOutput } from "../film/index.ts";
import type { FilmOutput, ShowDocument } from "../show/index.ts";
import { checkFraming, type FilmOfOutput } from "./check-framing.ts";
import { checkLandings } from "./check-landings.ts";
import { checkMusic } from "./check-music.ts";
import { checkSlides } from "./check-slides.ts";
import { soundRemarksAsFindings } from "./check-sound.ts";
import { checkEmptyWords, checkWords } from "./check-words.ts";
import { type Finding, sortedFindings } from "./finding.ts";

/**
 * All that can be found from a show's plan, without its pixels and its sound: landings and locks,
 * times of slides and words, framing in every output, how the music ends. `plan` is the film as the
 * show itself is laid. Films of parts are planned again for it; those of other sizes are framed
 * again. O(outputs x slides).
 */
export function checkFilm(show: ShowDocument, plan: FilmPlan, facts: FilmFacts): Finding[] {
  const films = show.outputs.length === 0 ? [{ name: "the film", plan }] : filmsOf(show, plan, facts);
  return sortedFindings([
    ...checkLandings(plan),
    ...checkSlides(plan),
    ...partFindings(show, films),
    ...checkFraming(show, films, facts),
    ...checkEmptyWords(show, plan),
    ...checkWords(show, films),
    ...checkMusic(show, plan, facts.analysis),
    ...soundRemarksAsFindings(plan),
  ]);
}

/**
 * Each output with its film. Sizes of one shape and length are framed alike, so that only enlarging
 * differs.
 */
function filmsOf(show: ShowDocument, plan: FilmPlan, facts: FilmFacts): FilmOfOutput[] {
  return show.outputs.flatMap((output) => {
    const film = filmOf(show, plan, facts, output);
    return film ? [{ name: output.name, plan: film }] : [];
  });
}

function filmOf(show: ShowDocument, plan: FilmPlan, facts: FilmFacts, output: FilmOutput): FilmPlan | null {
  const { size, part } = output;
  if (part === null) {
    const isSame = size.width === plan.size.width && size.height === plan.size.height;
    return isSame ? plan : filmInSize(show, plan, facts, size);
  }
  try {
    return planOutput(show, output, facts);
  } catch {
    // A part without a film of its own is said where it is exported.
    return null;
  }
}

/** Times in films of parts: their slides stand otherwise than in the whole film. */
function partFindings(show: ShowDocument, films: readonly FilmOfOutput[]): Finding[] {
  const parts = new Set(show.outputs.filter(({ part }) => part !== null).map(({ name }) => name));
  return films
    .filter(({ name }) => parts.has(name))
    .flatMap(({ name, plan }) =>
      [...checkSlides(plan), ...checkLandings(plan).filter(({ kind }) => kind !== "lock")].map((finding) => ({
        ...finding,
        // Its seconds are not those of the Score, and to stand longer there is not to stand longer
        // here.
        place: { ...finding.place, slotIndex: null, seconds: null, outputs: [name] },
        onlyInOutputs: true,
        fixes: finding.fixes.filter(({ kind }) => kind !== "stand"),
      })),
    );
}

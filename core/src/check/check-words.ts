import { type FilmPlan, type FilmSlot, liesOnFace, placeOffFaces } from "../film/index.ts";
import { itemAt } from "../presence/index.ts";
import { hasPicture, type ShowDocument, type Words } from "../show/index.ts";
import type { FilmOfOutput } from "./check-framing.ts";
import { placeOfSlot } from "./check-slides.ts";
import type { Finding } from "./finding.ts";
import type { Fix } from "./fix.ts";

/**
 * Slides with words that nobody has written yet, and cards without any: nothing is seen of them,
 * and somebody meant to write there. O(slides).
 */
export function checkEmptyWords(show: ShowDocument, plan: FilmPlan): Finding[] {
  const slides = new Map(show.slides.map((slide) => [slide.id, slide]));
  return plan.slots.flatMap((slot): Finding[] => {
    const slide = slides.get(slot.slideId);
    if (!slide || slot.round > 0) return [];
    const isCard = !hasPicture(slide);
    const isBlank = ({ text }: Words): boolean => text.trim() === "";
    const isEmpty = isCard ? slide.words.every(isBlank) : slide.words.some(isBlank);
    if (!isEmpty) return [];
    return [
      {
        kind: "words-empty",
        severity: "warning",
        place: placeOfSlot(plan, slot),
        values: { slide: slot.name, isCard },
        fixes: isCard ? [{ kind: "leaveOut", slideId: slide.id }] : [],
      },
    ];
  });
}

/** So many letters of the words are said. */
const SAID_LETTERS = 40;

/** A slot whose words lie on a face, in one of the films. */
interface Covering {
  readonly film: FilmOfOutput;
  readonly slot: FilmSlot;
  /** Of the sheet. */
  readonly index: number;
}

/**
 * Words that lie on a face in any of the outputs, one finding a slide. It offers a place where they
 * lie on none. O(outputs x slides x words x heads).
 */
export function checkWords(show: ShowDocument, films: readonly FilmOfOutput[]): Finding[] {
  const bySlide = new Map<string, Covering[]>();
  for (const film of films)
    for (const slot of film.plan.slots) {
      if (slot.round > 0 || slot.heads.length === 0) continue;
      const index = slot.words.sheet.findIndex((words) => liesOnFace(words, film.plan.size, slot.heads));
      if (index >= 0) bySlide.set(slot.slideId, [...(bySlide.get(slot.slideId) ?? []), { film, slot, index }]);
    }
  return [...bySlide.values()].map((all) => findingOf(show, all, films));
}

function findingOf(show: ShowDocument, all: readonly Covering[], films: readonly FilmOfOutput[]): Finding {
  const { film, slot, index } = itemAt(all, 0);
  const words = itemAt(slot.words.sheet, index);
  const outputs = all.map((one) => one.film.name);
  const isInMain = film === films[0];
  const [line = ""] = words.text.trim().split("\n");
  return {
    kind: "words-on-face",
    severity: "warning",
    place: {
      ...placeOfSlot(film.plan, slot),
      // Of another output only the slide is the same.
      ...(isInMain ? {} : { slotIndex: null, seconds: null }),
      outputs: outputs.length === films.length ? [] : outputs,
    },
    values: { slide: slot.name, words: line.slice(0, SAID_LETTERS), outputs },
    fixes: movedWords(show, film.plan, slot, index),
  };
}

/** Nothing where every place is on a face. */
function movedWords(show: ShowDocument, plan: FilmPlan, slot: FilmSlot, index: number): Fix[] {
  const words = itemAt(slot.words.sheet, index);
  const place = placeOffFaces(words, plan.size, slot.heads);
  if (liesOnFace({ ...words, place }, plan.size, slot.heads)) return [];
  if (words.kind === "caption") return [{ kind: "moveWords", slideId: slot.slideId, words: null, place }];
  // Empty words are not on the sheet.
  const slide = show.slides.find(({ id }) => id === slot.slideId);
  const at = slide?.words.findIndex(({ kind, text }) => kind === words.kind && text === words.text) ?? -1;
  return at < 0 ? [] : [{ kind: "moveWords", slideId: slot.slideId, words: at, place }];
}

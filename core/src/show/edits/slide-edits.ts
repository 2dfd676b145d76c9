import { itemAt, lastOf } from "../../presence/index.ts";
import { hasPicture, type Rating, type ShowDocument, type Slide, type Turn } from "../document/index.ts";
import type { Words } from "../style/index.ts";

/**
 * Edits are pure: they return a new document and leave the old one as it was, which is what undo
 * gives back. One that changes nothing returns the same document.
 */

/** A place between slides: before a slide of the passage, or at its end. */
export interface SlidePlace {
  readonly passageId: string;
  readonly beforeId: string | null;
}

const CLOSING_KINDS: ReadonlySet<Words["kind"]> = new Set(["end", "credits"]);

/** Where new pictures of a passage go: before the end card and credits that close it. */
export function arrivalPlace({ slides }: ShowDocument, passageId: string): SlidePlace {
  const own = slides.filter((slide) => slide.passageId === passageId);
  const isClosing = (slide: Slide): boolean =>
    !hasPicture(slide) && slide.words.some(({ kind }) => CLOSING_KINDS.has(kind));
  const lastOther = own.findLastIndex((slide) => !isClosing(slide));
  return { passageId, beforeId: own[lastOther + 1]?.id ?? null };
}

/**
 * Puts new slides at a place, in the order given; their own passage does not matter. Ids that are
 * there already are passed over, so sending twice does no harm. Where the order is locked they go
 * to the end of the show.
 */
export function insertSlides(show: ShowDocument, slides: readonly Slide[], place: SlidePlace): ShowDocument {
  const known = new Set(show.slides.map((slide) => slide.id));
  const arriving = slides.filter((slide) => !known.has(slide.id));
  if (arriving.length === 0) return show;
  const target: SlidePlace = show.orderLocked ? { passageId: lastOf(show.passages).id, beforeId: null } : place;
  return { ...show, slides: putSlides(show, show.slides, arriving, target) };
}

/**
 * Slides with others put among them; an unknown passage is the last one. Shared by inserting and
 * moving.
 */
export function putSlides(
  show: ShowDocument,
  rest: readonly Slide[],
  arriving: readonly Slide[],
  place: SlidePlace,
): Slide[] {
  const known = show.passages.findIndex((passage) => passage.id === place.passageId);
  const passageIndex = known < 0 ? show.passages.length - 1 : known;
  const passageId = itemAt(show.passages, passageIndex).id;
  let at = rest.findIndex((slide) => slide.id === place.beforeId && slide.passageId === passageId);
  if (at < 0) {
    const later = new Set(show.passages.slice(passageIndex + 1).map((passage) => passage.id));
    at = rest.findIndex((slide) => later.has(slide.passageId));
    if (at < 0) at = rest.length;
  }
  const placed = arriving.map((slide) => (slide.passageId === passageId ? slide : { ...slide, passageId }));
  return rest.toSpliced(at, 0, ...placed);
}

/**
 * Takes slides out of the show. The poster goes with its slide; a voice begins with a slide that
 * stays.
 */
export function removeSlides(show: ShowDocument, ids: ReadonlySet<string>): ShowDocument {
  const slides = show.slides.filter((slide) => !ids.has(slide.id));
  if (slides.length === show.slides.length) return show;
  const posterSlideId = show.posterSlideId !== null && ids.has(show.posterSlideId) ? null : show.posterSlideId;
  return { ...show, slides, posterSlideId, voices: keptVoices(show, ids) };
}

/** A voice whose slide goes begins with the next one that stays, or the last before it. */
function keptVoices({ slides, voices }: ShowDocument, gone: ReadonlySet<string>): ShowDocument["voices"] {
  if (!voices.some(({ place }) => place.slideId !== null && gone.has(place.slideId))) return voices;
  return voices.map((voice) => {
    const { slideId } = voice.place;
    if (slideId === null || !gone.has(slideId)) return voice;
    const at = slides.findIndex(({ id }) => id === slideId);
    const stays = (slide: Slide): boolean => !gone.has(slide.id);
    const next = slides.slice(at).find(stays) ?? slides.slice(0, at).findLast(stays);
    return { ...voice, place: { ...voice.place, slideId: next?.id ?? null } };
  });
}

/** What a batch change may set. */
export type SlideChange = Partial<
  Pick<Slide, "caption" | "words" | "hero" | "length" | "stays" | "clip" | "subject" | "more" | "layout">
> & {
  readonly rating?: Rating;
};

/** The same change for every named slide: one edit, one undo step. */
export function changeSlides(show: ShowDocument, ids: ReadonlySet<string>, change: SlideChange): ShowDocument {
  return mapSlides(show, ids, (slide) => {
    const isSame = (Object.keys(change) as (keyof SlideChange)[]).every(
      (key) => JSON.stringify(change[key]) === JSON.stringify(slide[key]),
    );
    return isSame ? slide : { ...slide, ...change };
  });
}

/** Turns slides by quarter turns, clockwise for positive ones. */
export function turnSlides(show: ShowDocument, ids: ReadonlySet<string>, quarterTurns: number): ShowDocument {
  const degrees = (((quarterTurns * 90) % 360) + 360) % 360;
  if (degrees === 0) return show;
  return mapSlides(show, ids, (slide) => ({ ...slide, turn: ((slide.turn + degrees) % 360) as Turn }));
}

function mapSlides(show: ShowDocument, ids: ReadonlySet<string>, change: (slide: Slide) => Slide): ShowDocument {
  let changed = false;
  const slides = show.slides.map((slide) => {
    if (!ids.has(slide.id)) return slide;
    const next = change(slide);
    changed ||= next !== slide;
    return next;
  });
  return changed ? { ...show, slides } : show;
}

import { itemAt, lastOf } from "../../presence/index.ts";
import { newPassage, type Passage, type ShowDocument, type SongPlace } from "../document/index.ts";
import { moveSlides, reordered } from "./order-edits.ts";

const LARGEST_COUNT = 500;

/** An id that no passage of the show has: "p1", "p2" and so on, the first that is free. */
function freshId(passages: readonly Passage[]): string {
  const taken = new Set(passages.map((passage) => passage.id));
  for (let number = 1; ; number++) if (!taken.has(`p${number}`)) return `p${number}`;
}

/**
 * A new passage with the settings of its neighbour begins at a slide and takes the rest of the
 * passage. Nothing where it begins there already.
 */
export function splitPassage(show: ShowDocument, slideId: string, name = ""): ShowDocument {
  const at = show.slides.findIndex((slide) => slide.id === slideId);
  const slide = show.slides[at];
  if (!slide || show.slides[at - 1]?.passageId !== slide.passageId || show.passages.length >= LARGEST_COUNT)
    return show;
  const index = show.passages.findIndex((passage) => passage.id === slide.passageId);
  const id = freshId(show.passages);
  return {
    ...show,
    passages: show.passages.toSpliced(index + 1, 0, { ...itemAt(show.passages, index), id, name, startLock: null }),
    slides: show.slides.map((other, place) =>
      place >= at && other.passageId === slide.passageId ? { ...other, passageId: id } : other,
    ),
  };
}

/**
 * A passage becomes part of the one before it, whose name and settings stay; the first one, of the
 * one behind it.
 */
export function joinPassage(show: ShowDocument, passageId: string): ShowDocument {
  const index = show.passages.findIndex((passage) => passage.id === passageId);
  const other = show.passages[index === 0 ? 1 : index - 1];
  if (index < 0 || !other) return show;
  return {
    ...show,
    passages: show.passages.toSpliced(index, 1),
    slides: show.slides.map((slide) => (slide.passageId === passageId ? { ...slide, passageId: other.id } : slide)),
  };
}

/** Adds an empty passage behind another, to be filled. */
export function addPassage(show: ShowDocument, afterId: string, name: string): ShowDocument {
  const index = show.passages.findIndex((passage) => passage.id === afterId);
  if (index < 0 || show.passages.length >= LARGEST_COUNT) return show;
  const passage = newPassage(freshId(show.passages), name);
  return { ...show, passages: show.passages.toSpliced(index + 1, 0, passage) };
}

/**
 * The named slides leave their passages for a new one behind that of the first of them. Throws
 * `order-locked` where that changes the order.
 */
export function gatherPassage(show: ShowDocument, ids: ReadonlySet<string>, name: string): ShowDocument {
  const first = show.slides.find((slide) => ids.has(slide.id));
  if (!first) return show;
  const added = addPassage(show, first.passageId, name);
  if (added === show) return show;
  const index = show.passages.findIndex((passage) => passage.id === first.passageId);
  return moveSlides(added, ids, { passageId: itemAt(added.passages, index + 1).id, beforeId: null });
}

/** Changes the name, style or pace of a passage. */
export function changePassage(
  show: ShowDocument,
  passageId: string,
  change: Partial<Pick<Passage, "name" | "style" | "pace">>,
): ShowDocument {
  return {
    ...show,
    passages: show.passages.map((passage) => (passage.id === passageId ? { ...passage, ...change } : passage)),
  };
}

/** Locks the beginning of a passage to a place of the music, or with null gives it free. */
export function lockPassageStart(show: ShowDocument, passageId: string, place: SongPlace | null): ShowDocument {
  return {
    ...show,
    passages: show.passages.map((passage) => (passage.id === passageId ? { ...passage, startLock: place } : passage)),
  };
}

/**
 * Moves the border between a passage and the one before it, so that the passage begins at a slide
 * of either; null: behind its last slide. What lies between changes passages, the order stays.
 * Nothing for the first passage, and for slides of others.
 */
export function movePassageStart(show: ShowDocument, passageId: string, slideId: string | null): ShowDocument {
  const index = show.passages.findIndex((passage) => passage.id === passageId);
  const before = show.passages[index - 1];
  if (index < 1 || !before) return show;
  const both = show.slides.filter((slide) => slide.passageId === passageId || slide.passageId === before.id);
  const at = slideId === null ? both.length : both.findIndex((slide) => slide.id === slideId);
  if (at < 0) return show;
  const own = new Set(both.slice(at).map((slide) => slide.id));
  let changed = false;
  const slides = show.slides.map((slide) => {
    if (slide.passageId !== passageId && slide.passageId !== before.id) return slide;
    const target = own.has(slide.id) ? passageId : before.id;
    changed ||= target !== slide.passageId;
    return target === slide.passageId ? slide : { ...slide, passageId: target };
  });
  return changed ? { ...show, slides } : show;
}

/**
 * Moves a whole passage with its slides by so many places. Throws `order-locked` where that changes
 * the order.
 */
export function shiftPassage(show: ShowDocument, passageId: string, places: number): ShowDocument {
  const from = show.passages.findIndex((passage) => passage.id === passageId);
  const to = Math.max(0, Math.min(show.passages.length - 1, from + places));
  if (from < 0 || to === from) return show;
  const passages = show.passages.toSpliced(from, 1).toSpliced(to, 0, itemAt(show.passages, from));
  const slides = passages.flatMap((passage) => show.slides.filter((slide) => slide.passageId === passage.id));
  return { ...reordered(show, slides), passages };
}

/**
 * Divides the whole show again: a passage begins at each of the named slides, and at the first
 * slide in any case. The passages that were there go, with their settings. Slides keep their order.
 */
export function dividePassages(
  show: ShowDocument,
  beginnings: readonly { readonly slideId: string; readonly name: string }[],
): ShowDocument {
  const names = new Map(beginnings.slice(0, LARGEST_COUNT - 1).map(({ slideId, name }) => [slideId, name]));
  const passages: Passage[] = [];
  const slides = show.slides.map((slide, index) => {
    const name = names.get(slide.id);
    if (name !== undefined || index === 0) passages.push(newPassage(freshId(passages), name ?? ""));
    return { ...slide, passageId: lastOf(passages).id };
  });
  return passages.length === 0 ? show : { ...show, passages, slides };
}

import type { ShowDocument, Slide } from "./document.ts";

/** Edits are pure: they return a new document and leave the old one as it was, which is what undo gives back. */

/** Puts a slide at the place `index` of the resulting order; the same id again changes nothing, so sending twice does no harm. */
export function insertSlide(show: ShowDocument, slide: Slide, index: number): ShowDocument {
  if (show.slides.some((known) => known.id === slide.id)) return show;
  return { ...show, slides: show.slides.toSpliced(index, 0, slide) };
}

export function removeSlides(show: ShowDocument, ids: ReadonlySet<string>): ShowDocument {
  return { ...show, slides: show.slides.filter((slide) => !ids.has(slide.id)) };
}

/** Moves one slide to the place `toIndex` of the resulting order; indices outside are drawn to the ends. */
export function moveSlide(show: ShowDocument, id: string, toIndex: number): ShowDocument {
  const slide = show.slides.find((candidate) => candidate.id === id);
  if (!slide) return show;
  const rest = show.slides.filter((candidate) => candidate.id !== id);
  const at = Math.max(0, Math.min(rest.length, toIndex));
  return { ...show, slides: [...rest.slice(0, at), slide, ...rest.slice(at)] };
}

/** Locks the beginning of a slide to a second of the song, or with null gives it free. */
export function lockLanding(show: ShowDocument, id: string, songSeconds: number | null): ShowDocument {
  return {
    ...show,
    slides: show.slides.map((slide) => (slide.id === id ? { ...slide, landingLockSeconds: songSeconds } : slide)),
  };
}

/**
 * Takes another song. Corrections of the old song's grid mean nothing for it and go; so do landing locks, which name
 * seconds of the old song. The same song again changes nothing.
 */
export function chooseSong(show: ShowDocument, song: ShowDocument["song"]): ShowDocument {
  if (song?.sha256 === show.song?.sha256) return show;
  return {
    ...show,
    song,
    gridEdits: [],
    slides: show.slides.map((slide) => ({ ...slide, landingLockSeconds: null })),
  };
}

import type { ShowDocument } from "./document.ts";

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

/** The slide that stands for the show: the chosen one, else the first of the film, else the first of all; undefined without slides. */
export function posterSlide(show: ShowDocument): ShowDocument["slides"][number] | undefined {
  return (
    show.slides.find((slide) => slide.id === show.posterSlideId) ??
    show.slides.find((slide) => slide.rating !== "out") ??
    show.slides[0]
  );
}

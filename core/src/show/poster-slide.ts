import type { ShowDocument } from "./document.ts";

/** The slide that stands for the show: the chosen one, else the first of the film, else the first of all; undefined without slides. */
export function posterSlide(show: ShowDocument): ShowDocument["slides"][number] | undefined {
  return (
    show.slides.find((slide) => slide.id === show.posterSlideId) ??
    show.slides.find((slide) => slide.rating !== "out") ??
    show.slides[0]
  );
}

import { hasPicture, type PictureSlide, type ShowDocument } from "./document.ts";

/**
 * The picture that stands for the show: the chosen one, else the first of the film, else the first
 * of all; undefined without pictures.
 */
export function posterSlide(show: ShowDocument): PictureSlide | undefined {
  const pictures = show.slides.filter(hasPicture);
  return (
    pictures.find((slide) => slide.id === show.posterSlideId) ??
    pictures.find((slide) => slide.rating !== "out") ??
    pictures[0]
  );
}

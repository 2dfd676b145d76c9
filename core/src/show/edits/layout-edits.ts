import {
  hasPicture,
  MOST_PICTURES,
  type MorePicture,
  newSlide,
  type ShowDocument,
  type Slide,
} from "../document/index.ts";

/**
 * Whether slides can stand on one: at least two, every one with a picture, and not too many
 * pictures together. What is a clip is said by `isClip`: clips stay slides of their own.
 */
export function canGatherOnSlide(
  show: ShowDocument,
  ids: ReadonlySet<string>,
  isClip: (sha256: string) => boolean,
): boolean {
  const slides = show.slides.filter(({ id }) => ids.has(id));
  const count = slides.reduce((sum, { more }) => sum + 1 + more.length, 0);
  return slides.length > 1 && count <= MOST_PICTURES && slides.every((one) => hasPicture(one) && !isClip(one.sha256));
}

/**
 * Puts the pictures of slides onto the first of them; the others are slides no more. Its caption is
 * the first there is. Needs `canGatherOnSlide`.
 */
export function gatherOnSlide(show: ShowDocument, ids: ReadonlySet<string>): ShowDocument {
  const [first, ...others] = show.slides.filter((slide) => ids.has(slide.id)).filter(hasPicture);
  if (!first || others.length === 0) return show;
  const more = [
    ...first.more,
    ...others.flatMap(({ sha256, fileName, turn, subject, more: own }): MorePicture[] => [
      { sha256, fileName, turn, subject },
      ...own,
    ]),
  ];
  const gathered: Slide = {
    ...first,
    more: more.slice(0, MOST_PICTURES - 1),
    caption: [first, ...others].find(({ caption }) => caption !== "")?.caption ?? "",
    hero: [first, ...others].some(({ hero }) => hero),
  };
  const gone = new Set(others.map(({ id }) => id));
  return {
    ...show,
    slides: show.slides.filter(({ id }) => !gone.has(id)).map((slide) => (slide.id === first.id ? gathered : slide)),
    posterSlideId: show.posterSlideId !== null && gone.has(show.posterSlideId) ? first.id : show.posterSlideId,
  };
}

/**
 * Makes a picture that stands beside a slide's own a slide again, right behind it; `newId` is its
 * id.
 */
export function takeFromSlide(show: ShowDocument, slideId: string, moreIndex: number, newId: string): ShowDocument {
  const at = show.slides.findIndex(({ id }) => id === slideId);
  const slide = show.slides[at];
  const picture = slide?.more[moreIndex];
  if (!slide || !picture || show.slides.some(({ id }) => id === newId)) return show;
  const alone: Slide = {
    ...newSlide({ id: newId, ...picture }, slide.passageId),
    turn: picture.turn,
    subject: picture.subject,
  };
  const rest = { ...slide, more: slide.more.toSpliced(moreIndex, 1) };
  return { ...show, slides: show.slides.toSpliced(at, 1, rest, alone) };
}

import type { StyleWishes } from "../style/index.ts";
import type { ShowDocument, Turn } from "./document.ts";

/** A picture or clip that a show names. */
export interface NamedPicture {
  readonly sha256: string;
  readonly fileName: string;
  readonly turn: Turn;
}

/**
 * Everything that can be seen on a show's slides, in their order and as often as it is there: their
 * own pictures and those beside them.
 */
export const namedPictures = ({ slides }: Pick<ShowDocument, "slides">): NamedPicture[] =>
  slides.flatMap(({ sha256, fileName, turn, more }) => [
    ...(sha256 === null ? [] : [{ sha256, fileName, turn }]),
    ...more,
  ]);

/** Graphics of one's own, of the show and whatever does it differently, each once. */
export function namedGraphics({
  style,
  passages,
  slides,
}: Pick<ShowDocument, "style" | "passages" | "slides">): Pick<NamedPicture, "sha256" | "fileName">[] {
  const wishes: Pick<StyleWishes, "graphic">[] = [style, ...[...passages, ...slides].map((one) => one.style)];
  const found = wishes.flatMap(({ graphic }) => (graphic?.kind === "own" ? [graphic] : []));
  return [...new Map(found.map((graphic) => [graphic.sha256, graphic])).values()];
}

import { itemAt } from "../../presence/index.ts";
import type { ClipPart, ShowDocument, Slide } from "../document/index.ts";
import { changeSlides } from "./slide-edits.ts";

type PartOfClip = Pick<ClipPart, "inSeconds" | "outSeconds" | "momentSeconds">;

/** Chooses parts of clips, slide by slide: one edit. The speed of each clip stays. */
export function takeClipParts(show: ShowDocument, parts: ReadonlyMap<string, PartOfClip>): ShowDocument {
  return [...parts].reduce((changed, [id, part]) => {
    const speed = show.slides.find((slide) => slide.id === id)?.clip?.speed ?? 1;
    return changeSlides(changed, new Set([id]), { clip: { ...part, speed } });
  }, show);
}

/** What stays with the slide that was there when its clip is split. */
const OF_THE_FIRST: Pick<Slide, "caption" | "words" | "hero" | "landingLock" | "length" | "more" | "formerFiles"> = {
  caption: "",
  words: [],
  hero: false,
  landingLock: null,
  length: null,
  more: [],
  formerFiles: [],
};

/**
 * Shows several parts of a clip, one after the other. The slide itself gets the first part. The
 * others follow it as slides of their own, with the ids given: one fewer than parts. They look
 * alike, but words, caption and locks stay with the first. An unknown slide changes nothing.
 */
export function splitClip(
  show: ShowDocument,
  slideId: string,
  parts: readonly PartOfClip[],
  newIds: readonly string[],
): ShowDocument {
  const at = show.slides.findIndex(({ id }) => id === slideId);
  const [first, ...others] = parts;
  if (at < 0 || !first) return show;
  const slide = itemAt(show.slides, at);
  const speed = slide.clip?.speed ?? 1;
  const following = others.map((part, index) => ({
    ...slide,
    ...OF_THE_FIRST,
    id: itemAt(newIds, index),
    clip: { ...part, speed },
  }));
  const slides = show.slides.toSpliced(at, 1, { ...slide, clip: { ...first, speed } }, ...following);
  return { ...show, slides };
}

import { present } from "@humming-tide/core/presence";
import {
  changeStyle,
  type ShowDocument,
  type Slide,
  type Style,
  type StyleLevel,
  styleOf,
  styleWith,
} from "@humming-tide/core/show";
import { edit } from "../store/edit.ts";

/**
 * One part of a style as it is seen and changed at a level: in the show, a passage or some slides.
 */
export interface StylePart<Value> {
  readonly value: Value;
  /** The level says it itself; the show always does. */
  readonly isOwn: boolean;
  /** The slides do not agree; the value is that of the first. */
  readonly isMixed: boolean;
  /** What it follows where it says nothing itself; null for the show. */
  readonly above: "the passage" | "the show" | null;
  readonly set: (value: Value) => void;
  /**
   * As `set`, but what follows at once of the same kind is one step of undo with it: for sliders.
   */
  readonly slide: (value: Value) => void;
  /** Gives it back to what stands above. */
  readonly reset: () => void;
}

export function stylePart<Key extends keyof Style>(
  show: ShowDocument,
  level: StyleLevel,
  key: Key,
): StylePart<Style[Key]> {
  const change = (value: Style[Key] | null, tag: string | null): void =>
    edit((document) => changeStyle(document, level, { [key]: value }), tag);
  const acts = {
    set: (value: Style[Key]) => change(value, null),
    slide: (value: Style[Key]) => change(value, `style ${key} of ${level.kind}`),
    reset: () => change(null, null),
  };
  if (level.kind === "show") return { value: show.style[key], isOwn: true, isMixed: false, above: null, ...acts };
  if (level.kind === "passage") {
    const own = present(show.passages.find(({ id }) => id === level.passageId)).style;
    return {
      value: styleWith(show.style, own)[key],
      isOwn: own[key] !== null,
      isMixed: false,
      above: "the show",
      ...acts,
    };
  }
  const slides = show.slides.filter(({ id }) => level.slideIds.has(id));
  const seen = (slide: Slide): Style[Key] => styleOf(show, slide)[key];
  const first = slides[0] ? seen(slides[0]) : show.style[key];
  return {
    value: first,
    isOwn: slides.some(({ style }) => style[key] !== null),
    isMixed: slides.some((slide) => JSON.stringify(seen(slide)) !== JSON.stringify(first)),
    above: "the passage",
    ...acts,
  };
}

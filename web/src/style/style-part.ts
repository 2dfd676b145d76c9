import { present } from "@humming-tide/core/presence";
import {
  changeStyle,
  type Fill,
  fillIn,
  type ShowDocument,
  type Slide,
  type Style,
  type StyleLevel,
  type StyleWishes,
  setShapeFill,
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

/** A fill that may be another one in films of one shape. */
export interface FillPart extends StylePart<Fill> {
  /** Films of the shape have a fill of their own; only that is changed then. */
  readonly isForShape: boolean;
  /** Gives the shape a fill of its own, as it is now, or takes it away. */
  readonly setForShape: (isOwn: boolean) => void;
}

/** The fill as it is seen and changed in films of one shape. */
export function fillPart(show: ShowDocument, level: StyleLevel, shape: string): FillPart {
  const forAll = stylePart(show, level, "fill");
  const single = stylePart(show, level, "shapeFills");
  const isForShape = ownersOf(show, level).some(({ shapeFills }) => shapeFills.some((own) => own.shape === shape));
  const value = fillIn({ fill: forAll.value, shapeFills: single.value }, shape);
  const seen = level.kind === "slides" ? show.slides.filter(({ id }) => level.slideIds.has(id)) : [];
  const isAlike = (slide: Slide): boolean =>
    JSON.stringify(fillIn(styleOf(show, slide), shape)) === JSON.stringify(value);
  const put = (fill: Fill | null, tag: string | null): void =>
    edit((document) => setShapeFill(document, level, shape, fill), tag);
  const part = {
    ...forAll,
    value,
    isMixed: !seen.every(isAlike),
    isForShape,
    setForShape: (isOwn: boolean) => put(isOwn ? value : null, null),
  };
  if (!isForShape) return part;
  return {
    ...part,
    isOwn: true,
    set: (fill) => put(fill, null),
    slide: (fill) => put(fill, `fill in ${shape} of ${level.kind}`),
    reset: () => put(null, null),
  };
}

/** What a level says itself. */
function ownersOf(show: ShowDocument, level: StyleLevel): readonly Pick<StyleWishes, "shapeFills">[] {
  if (level.kind === "show") return [show.style];
  if (level.kind === "passage")
    return show.passages.filter(({ id }) => id === level.passageId).map(({ style }) => style);
  return show.slides.filter(({ id }) => level.slideIds.has(id)).map(({ style }) => style);
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

import type { ShowDocument, Slide, SlideView } from "../document/index.ts";
import { AS_ABOVE, type Fill, type Style, type StyleWishes, styleWith, withShapeFill } from "../style/index.ts";

/**
 * The style that a slide is seen in: the show's, what its passage does differently, and what it
 * does differently itself.
 */
export function styleOf(show: ShowDocument, slide: Pick<Slide, "passageId" | "style">): Style {
  const passage = show.passages.find(({ id }) => id === slide.passageId);
  return styleWith(passage ? styleWith(show.style, passage.style) : show.style, slide.style);
}

/** Whose style is changed. */
export type StyleLevel =
  | { readonly kind: "show" }
  | { readonly kind: "passage"; readonly passageId: string }
  | { readonly kind: "slides"; readonly slideIds: ReadonlySet<string> };

/**
 * Sets parts of a style; null gives a part back to what stands above, and the show, above which
 * nothing stands, keeps what it has.
 */
export function changeStyle(show: ShowDocument, level: StyleLevel, change: Partial<StyleWishes>): ShowDocument {
  if (level.kind !== "show") return mapStyles(show, level, (style) => ({ ...style, ...change }));
  const decided = Object.fromEntries(Object.entries(change).filter(([, value]) => value !== null)) as Partial<Style>;
  return mapStyles(show, level, (style) => ({ ...style, ...decided }));
}

/** Sets the fill for films of one shape ("9:16"); null: they have the fill of all shapes. */
export const setShapeFill = (show: ShowDocument, level: StyleLevel, shape: string, fill: Fill | null): ShowDocument =>
  mapStyles(show, level, (style) => ({ ...style, shapeFills: withShapeFill(style.shapeFills, shape, fill) }));

function mapStyles(
  show: ShowDocument,
  level: StyleLevel,
  change: <T extends Style | StyleWishes>(style: T) => T,
): ShowDocument {
  const styled = <T extends { readonly style: StyleWishes }>(one: T): T => ({ ...one, style: change(one.style) });
  switch (level.kind) {
    case "show":
      return { ...show, style: change(show.style) };
    case "passage":
      return {
        ...show,
        passages: show.passages.map((passage) => (passage.id === level.passageId ? styled(passage) : passage)),
      };
    case "slides":
      return { ...show, slides: show.slides.map((slide) => (level.slideIds.has(slide.id) ? styled(slide) : slide)) };
  }
}

/**
 * The style that one slide is seen in, for others too: each says only what its passage does not say
 * already.
 */
export function copyStyle(show: ShowDocument, fromId: string, slideIds: ReadonlySet<string>): ShowDocument {
  const from = show.slides.find(({ id }) => id === fromId);
  if (!from) return show;
  const wanted = styleOf(show, from);
  const slides = show.slides.map((slide) => {
    if (slide.id === fromId || !slideIds.has(slide.id)) return slide;
    const given = styleOf(show, { ...slide, style: AS_ABOVE });
    const isSame = (part: keyof Style): boolean => JSON.stringify(given[part]) === JSON.stringify(wanted[part]);
    const own = <K extends keyof Style>(part: K): Style[K] | null => (isSame(part) ? null : wanted[part]);
    // Both or neither: a fill of its own replaces those for single shapes.
    const isFilledAlike = isSame("fill") && isSame("shapeFills");
    return {
      ...slide,
      style: {
        transition: own("transition"),
        fill: isFilledAlike ? null : wanted.fill,
        shapeFills: isFilledAlike ? [] : wanted.shapeFills,
        move: own("move"),
        letters: own("letters"),
        captions: own("captions"),
        look: own("look"),
        edge: own("edge"),
        overlay: own("overlay"),
        graphic: own("graphic"),
      },
    };
  });
  return { ...show, slides };
}

/** Puts the frame of one slide for films of one shape; null: as the rule has it. */
export function setView(
  show: ShowDocument,
  slideId: string,
  shape: string,
  view: Pick<SlideView, "start" | "end"> | null,
): ShowDocument {
  return {
    ...show,
    slides: show.slides.map((slide) => {
      if (slide.id !== slideId) return slide;
      const others = slide.views.filter((other) => other.shape !== shape);
      return { ...slide, views: view ? [...others, { shape, ...view }] : others };
    }),
  };
}

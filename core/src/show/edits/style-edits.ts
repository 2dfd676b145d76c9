import type { ShowDocument, Slide, SlideView } from "../document/index.ts";
import { AS_ABOVE, type Style, type StyleWishes, styleWith } from "../style/index.ts";

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
  switch (level.kind) {
    case "show": {
      const decided = Object.fromEntries(
        Object.entries(change).filter(([, value]) => value !== null),
      ) as Partial<Style>;
      return { ...show, style: { ...show.style, ...decided } };
    }
    case "passage":
      return {
        ...show,
        passages: show.passages.map((passage) =>
          passage.id === level.passageId ? { ...passage, style: { ...passage.style, ...change } } : passage,
        ),
      };
    case "slides":
      return {
        ...show,
        slides: show.slides.map((slide) =>
          level.slideIds.has(slide.id) ? { ...slide, style: { ...slide.style, ...change } } : slide,
        ),
      };
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
    const own = <K extends keyof Style>(part: K): Style[K] | null =>
      JSON.stringify(given[part]) === JSON.stringify(wanted[part]) ? null : wanted[part];
    return {
      ...slide,
      style: {
        transition: own("transition"),
        fill: own("fill"),
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

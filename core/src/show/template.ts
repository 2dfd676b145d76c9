import { z } from "zod";
import {
  frameRateSchema,
  frameSizeSchema,
  newPassage,
  type Passage,
  paceSchema,
  passageNameSchema,
  type ShowDocument,
  transitionLandingSchema,
} from "./document.ts";
import { newestTemplate, paceOfVersion3 } from "./document-versions.ts";
import { type Fill, styleSchema, styleWishesSchema } from "./style.ts";

const currentTemplateSchema = z.object({
  frameRate: frameRateSchema,
  size: frameSizeSchema,
  pace: z.preprocess(paceOfVersion3, paceSchema),
  style: styleSchema,
  transitionLanding: transitionLandingSchema.default({ point: "middle", leadFrames: 0 }),
  standsStill: z.boolean().default(false),
  passages: z
    .array(z.object({ name: passageNameSchema, style: styleWishesSchema, pace: paceSchema.nullable().default(null) }))
    .max(500),
});

/** Style and rules of a show without any of its media; of any version that this program ever wrote. */
export const templateSchema = z.preprocess(newestTemplate, currentTemplateSchema);
export type ShowTemplate = z.infer<typeof currentTemplateSchema>;

/** A fill that is a picture stays with its show. */
const withoutMedia = <T extends { readonly fill: Fill | null }>(style: T, instead: T["fill"]): T =>
  style.fill?.kind === "picture" ? { ...style, fill: instead } : style;

export function templateOf(show: ShowDocument): ShowTemplate {
  const { frameRate, size, pace, style, transitionLanding, standsStill, passages } = show;
  return {
    frameRate,
    size,
    pace,
    style: withoutMedia(style, { kind: "blur" }),
    transitionLanding,
    standsStill,
    passages: passages.map(({ name, style: own, pace: ownPace }) => ({
      name,
      style: withoutMedia(own, null),
      pace: ownPace,
    })),
  };
}

/**
 * Gives a show the style and rules of a template. A show without pictures gets the template's passages, to be filled; in one with
 * pictures the passages stay, and those of the same name take over its settings.
 */
export function applyTemplate(show: ShowDocument, template: ShowTemplate): ShowDocument {
  const { frameRate, size, pace, style, transitionLanding, standsStill } = template;
  const rules = { frameRate, size, pace, style, transitionLanding, standsStill };
  if (show.slides.length === 0 && template.passages.length > 0) {
    const passages = template.passages.map(
      (passage, index): Passage => ({ ...newPassage(`p${index + 1}`, ""), ...passage }),
    );
    return { ...show, ...rules, passages };
  }
  const settings = new Map(
    template.passages.filter(({ name }) => name !== "").map((passage) => [passage.name, passage]),
  );
  const passages = show.passages.map((passage) => ({ ...passage, ...settings.get(passage.name) }));
  return { ...show, ...rules, passages };
}

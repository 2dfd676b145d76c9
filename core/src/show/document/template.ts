import { z } from "zod";
import { frameRateSchema, frameSizeSchema, paceSchema } from "../../values/index.ts";
import { type StyleWishes, styleSchema, styleWishesSchema } from "../style/index.ts";
import { clientOfferSchema, FIRST_CLIENT_OFFER } from "./client-page.ts";
import { newPassage, type Passage, passageNameSchema, type ShowDocument, transitionLandingSchema } from "./document.ts";
import { newestTemplate, paceOfVersion3 } from "./document-versions.ts";
import { mainOutput, outputsSchema } from "./outputs.ts";
import { FIRST_MIX, soundMixSchema } from "./voice.ts";

const currentTemplateSchema = z.object({
  frameRate: frameRateSchema,
  size: frameSizeSchema,
  pace: z.preprocess(paceOfVersion3, paceSchema),
  style: styleSchema,
  transitionLanding: transitionLandingSchema.default({ point: "middle", leadFrames: 0 }),
  standsStill: z.boolean().default(false),
  mix: soundMixSchema.default(FIRST_MIX),
  /** Null: of a template that knew none. */
  outputs: outputsSchema.nullable().default(null),
  clientOffer: clientOfferSchema.default(FIRST_CLIENT_OFFER),
  passages: z
    .array(z.object({ name: passageNameSchema, style: styleWishesSchema, pace: paceSchema.nullable().default(null) }))
    .max(500),
});

/**
 * Style and rules of a show without any of its media; of any version that this program ever wrote.
 */
export const templateSchema = z.preprocess(newestTemplate, currentTemplateSchema);
export type ShowTemplate = z.infer<typeof currentTemplateSchema>;

/** A fill that is a picture, and graphics of one's own, stay with their show. */
const withoutMedia = <T extends Pick<StyleWishes, "fill" | "graphic">>(
  style: T,
  instead: Pick<T, "fill" | "graphic">,
): T => ({
  ...style,
  ...(style.fill?.kind === "picture" ? { fill: instead.fill } : {}),
  ...(style.graphic?.kind === "own" ? { graphic: instead.graphic } : {}),
});

/**
 * What another show can begin with: style, pace, sound, outputs and names of passages, without
 * media.
 */
export function templateOf(show: ShowDocument): ShowTemplate {
  const { frameRate, size, pace, style, transitionLanding, standsStill, mix, outputs, clientOffer, passages } = show;
  return {
    frameRate,
    size,
    pace,
    style: withoutMedia(style, { fill: { kind: "blur" }, graphic: { kind: "none" } }),
    transitionLanding,
    standsStill,
    mix,
    outputs,
    clientOffer,
    passages: passages.map(({ name, style: own, pace: ownPace }) => ({
      name,
      style: withoutMedia(own, { fill: null, graphic: null }),
      pace: ownPace,
    })),
  };
}

/**
 * Gives a show the style and rules of a template. A show without pictures gets the template's
 * passages, to be filled; in one with pictures the passages stay, and those of the same name take
 * over its settings.
 */
export function applyTemplate(show: ShowDocument, template: ShowTemplate): ShowDocument {
  const { frameRate, size, pace, style, transitionLanding, standsStill, mix, clientOffer } = template;
  const outputs = template.outputs ?? [mainOutput(template)];
  const rules = { frameRate, size, pace, style, transitionLanding, standsStill, mix, outputs, clientOffer };
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

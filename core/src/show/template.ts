import { z } from "zod";
import {
  fillSchema,
  frameRateSchema,
  frameSizeSchema,
  newPassage,
  type Passage,
  paceSchema,
  passageNameSchema,
  type ShowDocument,
  transitionLandingSchema,
  transitionSchema,
} from "./document.ts";
import { paceOfVersion3 } from "./document-versions.ts";

/** Style and rules of a show without any of its media. */
export const templateSchema = z.object({
  frameRate: frameRateSchema,
  size: frameSizeSchema,
  pace: z.preprocess(paceOfVersion3, paceSchema),
  transition: transitionSchema,
  transitionLanding: transitionLandingSchema.default({ point: "middle", leadFrames: 0 }),
  fill: fillSchema,
  passages: z
    .array(
      z.object({
        name: passageNameSchema,
        transition: transitionSchema.nullable(),
        pace: paceSchema.nullable().default(null),
      }),
    )
    .max(500),
});
export type ShowTemplate = z.infer<typeof templateSchema>;

export function templateOf(show: ShowDocument): ShowTemplate {
  const { frameRate, size, pace, transition, transitionLanding, fill, passages } = show;
  return {
    frameRate,
    size,
    pace,
    transition,
    transitionLanding,
    fill,
    passages: passages.map(({ name, transition: own, pace: ownPace }) => ({ name, transition: own, pace: ownPace })),
  };
}

/**
 * Gives a show the style and rules of a template. A show without pictures gets the template's passages, to be filled; in one with
 * pictures the passages stay, and those of the same name take over its settings.
 */
export function applyTemplate(show: ShowDocument, template: ShowTemplate): ShowDocument {
  const { frameRate, size, pace, transition, transitionLanding, fill } = template;
  const style = { frameRate, size, pace, transition, transitionLanding, fill };
  if (show.slides.length === 0 && template.passages.length > 0) {
    const passages = template.passages.map(
      (passage, index): Passage => ({ ...newPassage(`p${index + 1}`, ""), ...passage }),
    );
    return { ...show, ...style, passages };
  }
  const settings = new Map(
    template.passages.filter(({ name }) => name !== "").map((passage) => [passage.name, passage]),
  );
  const passages = show.passages.map((passage) => ({ ...passage, ...settings.get(passage.name) }));
  return { ...show, ...style, passages };
}

import { z } from "zod";
import {
  fillSchema,
  frameRateSchema,
  frameSizeSchema,
  type Passage,
  paceSchema,
  passageNameSchema,
  type ShowDocument,
  transitionSchema,
} from "./document.ts";

/** Style and rules of a show without any of its media. */
export const templateSchema = z.object({
  frameRate: frameRateSchema,
  size: frameSizeSchema,
  pace: paceSchema,
  transition: transitionSchema,
  fill: fillSchema,
  passages: z.array(z.object({ name: passageNameSchema, transition: transitionSchema.nullable() })).max(500),
});
export type ShowTemplate = z.infer<typeof templateSchema>;

export function templateOf(show: ShowDocument): ShowTemplate {
  const { frameRate, size, pace, transition, fill, passages } = show;
  return {
    frameRate,
    size,
    pace,
    transition,
    fill,
    passages: passages.map(({ name, transition: own }) => ({ name, transition: own })),
  };
}

/**
 * Gives a show the style and rules of a template. A show without pictures gets the template's passages, to be filled; in one with
 * pictures the passages stay, and those of the same name take over its settings.
 */
export function applyTemplate(show: ShowDocument, template: ShowTemplate): ShowDocument {
  const { frameRate, size, pace, transition, fill } = template;
  const style = { frameRate, size, pace, transition, fill };
  if (show.slides.length === 0 && template.passages.length > 0) {
    const passages = template.passages.map((passage, index): Passage => ({ id: `p${index + 1}`, ...passage }));
    return { ...show, ...style, passages };
  }
  const settings = new Map(
    template.passages.filter(({ name }) => name !== "").map((passage) => [passage.name, passage]),
  );
  const passages = show.passages.map((passage) => ({ ...passage, ...settings.get(passage.name) }));
  return { ...show, ...style, passages };
}

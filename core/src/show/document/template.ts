import { z } from "zod";
import { frameRateSchema, frameSizeSchema, paceSchema } from "../../values/index.ts";
import { FIRST_STYLE, styleSchema, styleWishesSchema } from "../style/index.ts";
import { clientOfferSchema, FIRST_CLIENT_OFFER } from "./client-page.ts";
import {
  newPassage,
  type Passage,
  passageNameSchema,
  type ShowDocument,
  type Slide,
  transitionLandingSchema,
} from "./document.ts";
import { newestTemplate, paceOfVersion3 } from "./document-versions.ts";
import { mainOutput, outputsSchema } from "./outputs.ts";
import { withoutMedia } from "./style-without-media.ts";
import { cardFromTemplate, type TemplateCard, templateCardsOf, templateCardsSchema } from "./template-cards.ts";
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
    .array(
      z.object({
        name: passageNameSchema,
        style: styleWishesSchema,
        pace: paceSchema.nullable().default(null),
        /** Cards before the passage's pictures, and those behind them. */
        opening: templateCardsSchema,
        closing: templateCardsSchema,
      }),
    )
    .max(500),
});

/**
 * Style and rules of a show without any of its media; of any version that this program ever wrote.
 */
export const templateSchema = z.preprocess(newestTemplate, currentTemplateSchema);
export type ShowTemplate = z.infer<typeof currentTemplateSchema>;

/**
 * What another show can begin with: style, pace, sound, outputs, names of passages and their cards,
 * without media.
 */
export function templateOf(show: ShowDocument): ShowTemplate {
  const { frameRate, size, pace, style, transitionLanding, standsStill, mix, outputs, clientOffer, passages } = show;
  return {
    frameRate,
    size,
    pace,
    style: withoutMedia(style, { fill: FIRST_STYLE.fill, graphic: { kind: "none" } }),
    transitionLanding,
    standsStill,
    mix,
    outputs,
    clientOffer,
    passages: passages.map(({ id, name, style: own, pace: ownPace }) => ({
      name,
      style: withoutMedia(own, { fill: null, graphic: null }),
      pace: ownPace,
      ...templateCardsOf(show, id),
    })),
  };
}

/** All cards of a template, in the order of the film. */
export const templateCards = ({ passages }: ShowTemplate): readonly TemplateCard[] =>
  passages.flatMap(({ opening, closing }) => [...opening, ...closing]);

/**
 * Gives a show the style and rules of a template. A show without slides gets the template's
 * passages and cards, to be filled; in one with slides the passages stay, and those of the same
 * name take over its settings.
 */
export function applyTemplate(show: ShowDocument, template: ShowTemplate): ShowDocument {
  const { frameRate, size, pace, style, transitionLanding, standsStill, mix, clientOffer } = template;
  const outputs = template.outputs ?? [mainOutput(template)];
  const rules = { frameRate, size, pace, style, transitionLanding, standsStill, mix, outputs, clientOffer };
  if (show.slides.length === 0 && template.passages.length > 0)
    return { ...show, ...rules, ...passagesAndCards(show, template) };
  const settings = new Map(
    template.passages.filter(({ name }) => name !== "").map((passage) => [passage.name, passage]),
  );
  const passages = show.passages.map((passage) => {
    const set = settings.get(passage.name);
    return set ? { ...passage, style: set.style, pace: set.pace } : passage;
  });
  return { ...show, ...rules, passages };
}

function passagesAndCards(
  show: ShowDocument,
  { passages: wanted }: ShowTemplate,
): Pick<ShowDocument, "passages" | "slides"> {
  const passages: Passage[] = [];
  const slides: Slide[] = [];
  for (const [index, { name, style, pace, opening, closing }] of wanted.entries()) {
    const id = `p${index + 1}`;
    passages.push({ ...newPassage(id, name), style, pace });
    for (const card of [...opening, ...closing])
      slides.push(cardFromTemplate(`card${slides.length + 1}`, id, card, show));
  }
  return { passages, slides };
}

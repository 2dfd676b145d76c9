import { z } from "zod";
import { styleWishesSchema, wordsSchema } from "../style/index.ts";
import { dayText } from "./day-text.ts";
import { hasPicture, newSlide, type ShowDocument, type Slide, slideLengthSchema } from "./document.ts";
import { withoutMedia } from "./style-without-media.ts";

/** A card without its show: what it says, how long it stands and what it looks like. */
const templateCardSchema = z.object({
  words: z.array(wordsSchema).max(4),
  length: slideLengthSchema,
  stays: z.boolean(),
  style: styleWishesSchema,
});
export type TemplateCard = z.infer<typeof templateCardSchema>;

/** On either side of a passage's pictures. */
const MOST_CARDS = 50;
export const templateCardsSchema = z.array(templateCardSchema).max(MOST_CARDS).default([]);

/** What cards say of their show. Song names change with the film and are left out. */
const SHOW_FACTS = ["title", "event", "date", "client"] as const;
export type ShowFact = (typeof SHOW_FACTS)[number];
type KnownFacts = Pick<ShowDocument, ShowFact>;

const factText = (show: KnownFacts, fact: ShowFact): string => (fact === "date" ? dayText(show.date) : show[fact]);
const fieldOf = (fact: ShowFact): string => `{${fact}}`;

/**
 * The cards that open a passage and those that close it. Cards between pictures belong to these
 * pictures and stay. Where the words name the show, its event, day or client, a field stands
 * instead: another show puts its own there.
 */
export function templateCardsOf(
  show: ShowDocument,
  passageId: string,
): { opening: TemplateCard[]; closing: TemplateCard[] } {
  const slides = show.slides.filter((slide) => slide.passageId === passageId);
  const firstPicture = slides.findIndex(hasPicture);
  const lastPicture = slides.findLastIndex(hasPicture);
  const asTemplate = (cards: readonly Slide[]): TemplateCard[] =>
    cards.slice(0, MOST_CARDS).map(({ words, length, stays, style }) => ({
      words: words.map((block) => ({ ...block, text: withFields(block.text, show) })),
      length,
      stays,
      style: withoutMedia(style, { fill: null, graphic: null }),
    }));
  if (firstPicture < 0) return { opening: asTemplate(slides), closing: [] };
  return { opening: asTemplate(slides.slice(0, firstPicture)), closing: asTemplate(slides.slice(lastPicture + 1)) };
}

/** Which facts the words of cards ask for, in the order of a form. */
export function factsAskedFor(cards: readonly TemplateCard[]): readonly ShowFact[] {
  const parts = new Set(cards.flatMap(({ words }) => words.flatMap(({ text }) => text.split("\n").flatMap(partsOf))));
  return SHOW_FACTS.filter((fact) => parts.has(fieldOf(fact)));
}

/** The card as a slide of a show, with what the show says of itself in the fields. */
export function cardFromTemplate(id: string, passageId: string, card: TemplateCard, show: KnownFacts): Slide {
  const words = card.words.map((block) => ({ ...block, text: withFacts(block.text, show) }));
  return { ...newSlide({ id, sha256: null, fileName: "" }, passageId), ...card, words };
}

/**
 * A fact counts where it is a whole line or a part of one between commas: "Ada" in "Adapted by" is
 * not the client. The longest facts are looked for first.
 */
function withFields(text: string, show: ShowDocument): string {
  const songs = new Set(show.songs.map(({ fileName }) => fileName.replace(/\.\w+$/, "")));
  const facts = SHOW_FACTS.map((fact) => ({ field: fieldOf(fact), parts: partsOf(factText(show, fact).trim()) }))
    .filter(({ parts }) => parts.some((part) => part !== ""))
    .sort((a, b) => b.parts.join().length - a.parts.join().length);
  return written(text, (line) =>
    songs.has(line.trim()) ? null : facts.reduce((parts, fact) => withField(parts, fact), partsOf(line)).join(", "),
  );
}

const partsOf = (line: string): readonly string[] => line.split(", ");

/** A fact may have commas of its own: a run of parts becomes one field. */
function withField(
  line: readonly string[],
  { field, parts }: { field: string; parts: readonly string[] },
): readonly string[] {
  const at = line.findIndex((_, start) => parts.every((part, i) => line[start + i]?.trim() === part));
  return at < 0 ? line : withField(line.toSpliced(at, parts.length, field), { field, parts });
}

/** Fields of facts that a show does not have go, with their comma, and lines that are empty. */
function withFacts(text: string, show: KnownFacts): string {
  const facts = new Map<string, string>(SHOW_FACTS.map((fact) => [fieldOf(fact), factText(show, fact)]));
  return written(text, (line) => {
    const parts = partsOf(line);
    if (!parts.some((part) => facts.has(part))) return line;
    const known = parts.map((part) => facts.get(part) ?? part).filter((part) => part.trim() !== "");
    return known.length > 0 ? known.join(", ") : null;
  });
}

/** Every line written anew; null: it goes, and a heading of credits with it if it has no other. */
function written(text: string, lineOf: (line: string) => string | null): string {
  const lines: string[] = [];
  let lost = false;
  const closeHeading = (): void => {
    if (lost && lines.at(-1)?.trimEnd().endsWith(":")) lines.pop();
    lost = false;
  };
  for (const line of text.split("\n")) {
    const now = lineOf(line);
    if (line.trim() === "") closeHeading();
    if (now === null) lost = true;
    // Nothing to part where what stood above is gone.
    else if (now.trim() !== "" || (lines.length > 0 && lines.at(-1) !== "")) lines.push(now);
  }
  closeHeading();
  while (lines.at(-1) === "") lines.pop();
  return lines.join("\n");
}

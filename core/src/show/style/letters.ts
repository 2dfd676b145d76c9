import { z } from "zod";
import { colourSchema, lengthSchema } from "../../values/index.ts";

/**
 * How words in the picture are written. All fonts ship with the program, so a show looks alike on
 * every machine.
 */

export const FILM_FONTS = [
  "Cormorant Garamond",
  "EB Garamond",
  "Playfair Display",
  "Cinzel",
  "Josefin Sans",
  "Montserrat",
  "Oswald",
  "Noto Sans",
  "Great Vibes",
  "Dancing Script",
] as const;
export type FilmFont = (typeof FILM_FONTS)[number];

/** Designs for all words of a film: pairs of faces, ornaments, proportions (core/words). */
export const TITLE_SETS = [
  "quay",
  "lantern",
  "pennant",
  "logbook",
  "harbour",
  "signal",
  "evening",
  "regatta",
  "bow",
  "sail",
] as const;
export type TitleSet = (typeof TITLE_SETS)[number];

/** How words appear. All of them leave with a fade. */
export const ENTRANCES = ["fade", "lines", "letters", "rule", "rise", "track"] as const;
export type Entrance = (typeof ENTRANCES)[number];

export const CAPITALS = ["as-written", "all", "small"] as const;
export type Capitals = (typeof CAPITALS)[number];

const share = z.number().min(0).max(1);
const weightSchema = z.union([z.literal(400), z.literal(700)]);
/** More or less room between letters, in ems. */
const spacingSchema = z.number().min(-0.05).max(0.5);

export const lettersSchema = z.object({
  /** Null: every line in the font, weight and spacing that are chosen here. */
  titleSet: z.enum(TITLE_SETS).nullable(),
  font: z.enum(FILM_FONTS),
  weight: weightSchema,
  italic: z.boolean(),
  spacing: spacingSchema,
  capitals: z.enum(CAPITALS),
  colour: colourSchema,
  /** A line around every letter; its width as a share of the widest. */
  outline: z.object({ width: share, colour: colourSchema }).nullable(),
  /** How dark the soft shadow below is; 0: none. */
  shadow: share,
  /** A soft ground behind the words. */
  backing: z.object({ colour: colourSchema, strength: share }).nullable(),
  /**
   * How long words take to come and to go, on beats of the music; null: they come and go with their
   * slide.
   */
  fade: lengthSchema.nullable(),
  entrance: z.enum(ENTRANCES),
});
export type Letters = z.infer<typeof lettersSchema>;

/** What one line does differently; null: as its block has it. */
const lineWishesSchema = z.object({
  font: z.enum(FILM_FONTS).nullable(),
  weight: weightSchema.nullable(),
  italic: z.boolean().nullable(),
  /** Times the size that the line would have. */
  size: z.number().min(0.3).max(3).nullable(),
  spacing: spacingSchema.nullable(),
  capitals: z.enum(CAPITALS).nullable(),
  colour: colourSchema.nullable(),
});
export type LineWishes = z.infer<typeof lineWishesSchema>;

export const AS_ITS_BLOCK: LineWishes = {
  font: null,
  weight: null,
  italic: null,
  size: null,
  spacing: null,
  capitals: null,
  colour: null,
};

export const ALIGNMENTS = ["left", "middle", "right"] as const;

/** What one block of words does differently; null: as the style of its slide has it. */
const blockWishesSchema = z.object({
  titleSet: z.enum(TITLE_SETS).nullable(),
  /** Null: as its place in the frame asks. */
  align: z.enum(ALIGNMENTS).nullable(),
  /** Times the usual distance of lines. */
  lineSpacing: z.number().min(0.7).max(2).nullable(),
  colour: colourSchema.nullable(),
  shadow: share.nullable(),
  /** A width of 0 and a strength of 0: none. */
  outline: z.object({ width: share, colour: colourSchema }).nullable(),
  backing: z.object({ colour: colourSchema, strength: share }).nullable(),
  entrance: z.enum(ENTRANCES).nullable(),
});
export type BlockWishes = z.infer<typeof blockWishesSchema>;

export const AS_ITS_SLIDE: BlockWishes = {
  titleSet: null,
  align: null,
  lineSpacing: null,
  colour: null,
  shadow: null,
  outline: null,
  backing: null,
  entrance: null,
};

/** Where words stand inside the title-safe area. */
export const WORD_PLACES = [
  "top-left",
  "top",
  "top-right",
  "left",
  "middle",
  "right",
  "bottom-left",
  "bottom",
  "bottom-right",
] as const;
export type WordPlace = (typeof WORD_PLACES)[number];

/** Times the size that words of their kind usually have. */
const wordSizeSchema = z.number().min(0.4).max(2.5);

export const captionStyleSchema = z.object({ shown: z.boolean(), place: z.enum(WORD_PLACES), size: wordSizeSchema });
/** How the captions of slides are shown. */
export type CaptionStyle = z.infer<typeof captionStyleSchema>;

/** Lines of which each may have letters of its own; credits may be longer. */
const MOST_LINES = 40;

export const WORD_KINDS = ["title", "text", "lower-third", "end", "credits"] as const;

export const wordsSchema = z.object({
  kind: z.enum(WORD_KINDS),
  /**
   * Lines as they were written. The first is the main one of a title, a lower third and an end
   * card; of credits, lines that end with ":" are headings.
   */
  text: z.string().max(8000),
  /** Null: where words of their kind usually stand. Credits scroll and have no place. */
  place: z.enum(WORD_PLACES).nullable(),
  size: wordSizeSchema,
  letters: blockWishesSchema,
  /** One entry a line of the text at most; lines behind the last do nothing differently. */
  lines: z.array(lineWishesSchema).max(MOST_LINES),
});
/** Words on a slide, apart from its caption. */
export type Words = z.infer<typeof wordsSchema>;

/** Words that nothing is decided about but what they say. */
export const newWords = (kind: Words["kind"], text: string): Words => ({
  kind,
  text,
  place: null,
  size: 1,
  letters: AS_ITS_SLIDE,
  lines: [],
});

/** `count` wishes, one a line; the lines that have none do nothing differently. */
export const lineWishes = ({ lines }: Pick<Words, "lines">, count: number): LineWishes[] =>
  Array.from({ length: Math.min(count, MOST_LINES) }, (_, i) => lines[i] ?? AS_ITS_BLOCK);

/**
 * Words with another text. Lines before and behind the change keep their letters; a changed line
 * keeps those of the line in its place, and a new one has none of its own.
 */
export function withText(words: Words, text: string): Words {
  const [before, after] = [words.text.split("\n"), text.split("\n")];
  const wishes = lineWishes(words, before.length);
  const shorter = Math.min(before.length, after.length);
  let first = 0;
  while (first < shorter && before[first] === after[first]) first++;
  let last = 0;
  while (last < shorter - first && before[before.length - 1 - last] === after[after.length - 1 - last]) last++;
  const lines = after.slice(0, MOST_LINES).map((_, i): LineWishes => {
    if (i < first) return wishes[i] ?? AS_ITS_BLOCK;
    if (i >= after.length - last) return wishes[i - after.length + before.length] ?? AS_ITS_BLOCK;
    return (i < before.length - last ? wishes[i] : undefined) ?? AS_ITS_BLOCK;
  });
  return { ...words, text, lines: trimmed(lines) };
}

/** Words of which one line has other letters; `line` counts from 0. */
export function withLineWishes(words: Words, line: number, wishes: Partial<LineWishes>): Words {
  const lines = lineWishes(words, words.text.split("\n").length);
  return { ...words, lines: trimmed(lines.map((own, i) => (i === line ? { ...own, ...wishes } : own))) };
}

/** Without the lines at the end that do nothing differently. */
function trimmed(lines: readonly LineWishes[]): LineWishes[] {
  const last = lines.findLastIndex((line) => Object.values(line).some((value) => value !== null));
  return lines.slice(0, last + 1);
}

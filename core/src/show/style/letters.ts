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

const share = z.number().min(0).max(1);

export const lettersSchema = z.object({
  font: z.enum(FILM_FONTS),
  weight: z.union([z.literal(400), z.literal(700)]),
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
});
export type Letters = z.infer<typeof lettersSchema>;

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
});
/** Words on a slide, apart from its caption. */
export type Words = z.infer<typeof wordsSchema>;

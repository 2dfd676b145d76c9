import { z } from "zod";
import { asSeconds } from "../../time/index.ts";
import { frameRateSchema, frameSizeSchema } from "../../values/index.ts";
import { WORD_PLACES } from "../style/index.ts";
import { containerSchema } from "./containers.ts";

/**
 * The films that are made of one show: each a size, a rate and what else differs from the show as
 * it is laid.
 */

const id = z.string().min(1).max(64);

/**
 * "small": for phones and slow lines; "fine": nobody sees a difference; "finest": for those who
 * will work on it.
 */
export const QUALITIES = ["small", "fine", "finest"] as const;
const qualitySchema = z.enum(QUALITIES);
export type Quality = z.infer<typeof qualitySchema>;

export const watermarkSchema = z.object({
  text: z.string().min(1).max(120),
  place: z.enum(WORD_PLACES),
  /** 0 hardly, 1 wholly. */
  strength: z.number().min(0.05).max(1),
});
/** Words over all of a film, so that whoever passes it on says whose it is. */
export type Watermark = z.infer<typeof watermarkSchema>;

const partSchema = z
  .object({
    /** Of a song that is not in the show (any more): the first one. */
    songId: id,
    /**
     * Of the song's own decode; the end exclusive. It begins on a bar. It ends on a bar too, or
     * after a length that was asked for.
     */
    startSeconds: asSeconds(z.number().nonnegative()),
    endSeconds: asSeconds(z.number().positive()),
    /** How many bars a slide stands; null: as the show's own paces say. */
    barsPerSlide: z.number().int().min(1).max(16).nullable(),
  })
  .refine(({ startSeconds, endSeconds }) => endSeconds > startSeconds, "a part ends behind its beginning");
/** The stretch of one song that a short film is laid on. */
export type FilmPart = z.infer<typeof partSchema>;

/** Lengths that short films are asked for in. Common practice. */
export const SHORT_FILM_SECONDS = [15, 30, 60, 90] as const;

export const filmOutputSchema = z.object({
  id,
  name: z.string().min(1).max(80),
  size: frameSizeSchema,
  frameRate: frameRateSchema,
  container: containerSchema,
  quality: qualitySchema,
  /**
   * Captions of pictures are seen where their style shows them; false: nowhere. Titles and other
   * words stay.
   */
  captions: z.boolean(),
  watermark: watermarkSchema.nullable(),
  /** Null: the whole show. */
  part: partSchema.nullable(),
  /** Its end leads back into its beginning, for a screen that plays it round and round. */
  loops: z.boolean(),
});
/** One format that a show is exported in. */
export type FilmOutput = z.infer<typeof filmOutputSchema>;

export const MOST_OUTPUTS = 40;
export const outputsSchema = z.array(filmOutputSchema).max(MOST_OUTPUTS);

const FIRST_OUTPUT_ID = "main";

/** The film as the show itself is laid. */
export const mainOutput = ({ size, frameRate }: Pick<FilmOutput, "size" | "frameRate">): FilmOutput => ({
  id: FIRST_OUTPUT_ID,
  name: "Main film",
  size,
  frameRate,
  container: "mp4",
  quality: "fine",
  captions: true,
  watermark: null,
  part: null,
  loops: false,
});

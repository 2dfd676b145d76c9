import { FILM_FONTS } from "@humming-tide/core/show";
import { z } from "zod";

/**
 * One file of a film font, as the server lists them; fonts that only stand in for missing letters
 * are among them.
 */
export const filmFontFileSchema = z.object({
  name: z.string(),
  family: z.enum([...FILM_FONTS, "Noto Sans Hebrew", "Noto Sans Arabic", "Noto Color Emoji"]),
  weight: z.union([z.literal(400), z.literal(700)]),
  italic: z.boolean(),
  /** Code points, both ends included. */
  ranges: z.array(z.tuple([z.number(), z.number()]).readonly()).readonly(),
});
export type FilmFontFile = z.infer<typeof filmFontFileSchema>;

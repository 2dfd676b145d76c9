import type { FontFile } from "@humming-tide/core/words";
import { z } from "zod";

/** One file of a film font, as the server lists them. */
export const filmFontFileSchema = z.object({
  name: z.string(),
  family: z.string() as unknown as z.ZodType<FontFile["family"]>,
  weight: z.union([z.literal(400), z.literal(700)]),
  ranges: z.array(z.tuple([z.number(), z.number()]).readonly()),
});
export type FilmFontFile = FontFile;

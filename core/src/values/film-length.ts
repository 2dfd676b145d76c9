import { z } from "zod";

export const lengthSchema = z.discriminatedUnion("unit", [
  z.object({ unit: z.literal("seconds"), count: z.number().positive().max(10) }),
  /** Of the music where it is needed. */
  z.object({ unit: z.literal("beats"), count: z.number().positive().max(16) }),
]);
/** A length of time in the film. */
export type FilmLength = z.infer<typeof lengthSchema>;

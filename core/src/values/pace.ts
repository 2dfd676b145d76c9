import { z } from "zod";

const count = z.number().int().positive().max(1000);
/** More accents than this no phrase has: all of them. */
export const MOST_ACCENTS_PER_PHRASE = 16;
/** As many as are heard as accents; the others are beats like others. */
export const DEFAULT_ACCENTS_PER_PHRASE = 4;
/** Pictures may be seen for a second and a half instead of two. */
const fast = z.boolean().optional();
export const paceSchema = z.discriminatedUnion("kind", [
  /** Best overall fit: every slide the same share of the time that no pace asks for. */
  z.object({ kind: z.literal("auto"), fast }),
  /** The same share, longer where the music is quiet and shorter where it is loud. */
  z.object({ kind: z.literal("music"), fast }),
  z.object({ kind: z.literal("beats"), count }),
  z.object({ kind: z.literal("bars"), count }),
  z.object({ kind: z.literal("phrases"), count }),
  z.object({ kind: z.literal("seconds"), seconds: z.number().min(0.2).max(600) }),
  /** One slide an accent, of the strongest of each phrase. */
  z.object({
    kind: z.literal("accents"),
    perPhrase: z.number().int().min(1).max(MOST_ACCENTS_PER_PHRASE),
  }),
  /** One slide a marker: any of them, or only those that were tapped. */
  z.object({ kind: z.literal("markers"), origin: z.enum(["any", "tapped"]) }),
]);
/** How long slides stand, or what they change on. */
export type Pace = z.infer<typeof paceSchema>;

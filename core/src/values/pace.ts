import { z } from "zod";

const count = z.number().int().positive().max(1000);
export const paceSchema = z.discriminatedUnion("kind", [
  /** Best overall fit: every slide the same share of the time that no pace asks for. */
  z.object({ kind: z.literal("auto") }),
  /** The same share, longer where the music is quiet and shorter where it is loud. */
  z.object({ kind: z.literal("music") }),
  z.object({ kind: z.literal("beats"), count }),
  z.object({ kind: z.literal("bars"), count }),
  z.object({ kind: z.literal("phrases"), count }),
  z.object({ kind: z.literal("seconds"), seconds: z.number().min(0.2).max(600) }),
  /** One slide an accent, or a marker (any of them, or only those that were tapped). */
  z.object({ kind: z.literal("accents") }),
  z.object({ kind: z.literal("markers"), origin: z.enum(["any", "tapped"]) }),
]);
/** How long slides stand, or what they change on. */
export type Pace = z.infer<typeof paceSchema>;

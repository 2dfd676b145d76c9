import { z } from "zod";

/** How two to six pictures stand on one slide. */
export const LAYOUT_KINDS = ["row", "column", "grid", "large-left", "large-top"] as const;

export const layoutSchema = z.object({
  /** "large": the slide's own picture is larger than the others. */
  kind: z.enum(LAYOUT_KINDS),
  /** Between pictures and around them, as a share of the frame's shorter side. */
  gap: z.number().min(0).max(0.08),
  /** Show them one after the other, on beats. */
  onBeats: z.boolean(),
});
export type Layout = z.infer<typeof layoutSchema>;

export const FIRST_LAYOUT: Layout = { kind: "row", gap: 0.014, onBeats: true };

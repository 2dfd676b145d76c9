import { z } from "zod";
import { WORD_PLACES } from "./letters.ts";

/** How two to six pictures stand on one slide. */
export const LAYOUT_KINDS = ["row", "column", "grid", "large-left", "large-top", "over"] as const;

export const layoutSchema = z.object({
  /**
   * "large": the slide's own picture is larger than the others. "over": it has the frame as without
   * them, and they lie over it.
   */
  kind: z.enum(LAYOUT_KINDS),
  /** Between pictures and around them, as a share of the frame's shorter side. */
  gap: z.number().min(0).max(0.08),
  /** Show them one after the other, on beats. */
  onBeats: z.boolean(),
  /** Of "over": where the others lie. */
  place: z.enum(WORD_PLACES),
  /** Of "over": the height of a square one, as a share of the frame's shorter side. */
  size: z.number().min(0.15).max(0.7),
});
export type Layout = z.infer<typeof layoutSchema>;

export const FIRST_LAYOUT: Layout = { kind: "row", gap: 0.014, onBeats: true, place: "bottom-right", size: 0.42 };

import { z } from "zod";
import { colourSchema, sha256Schema } from "../../values/index.ts";
import { WORD_PLACES } from "./letters.ts";

/** What lies over and around pictures: the tone of all of them, never a retouch of one. */

const share = z.number().min(0).max(1);

export const LOOK_KINDS = ["none", "warm", "cool", "monochrome", "faded"] as const;

export const lookSchema = z.object({
  kind: z.enum(LOOK_KINDS),
  /** 0: as it was taken. */
  strength: share,
  /**
   * How far each picture's own darkest and lightest tones are spread to black and white; 0: not at
   * all.
   */
  levels: share,
});
export type Look = z.infer<typeof lookSchema>;

export const edgeSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("none") }),
  /** A line along the picture's edge; `width` as a share of the frame's shorter side. */
  z.object({ kind: z.literal("border"), colour: colourSchema, width: z.number().min(0.001).max(0.03) }),
  /** Pictures stand on a mat, so wide at least on every side. */
  z.object({ kind: z.literal("mat"), colour: colourSchema, width: z.number().min(0.01).max(0.2) }),
]);
export type Edge = z.infer<typeof edgeSchema>;

export const OVERLAY_KINDS = ["none", "glow", "confetti", "grain"] as const;
export const overlaySchema = z.object({ kind: z.enum(OVERLAY_KINDS), strength: share });
/** Something light that moves over the picture. */
export type Overlay = z.infer<typeof overlaySchema>;

export const graphicSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("none") }),
  /** A picture with alpha: a monogram, an ornament. */
  z.object({
    kind: z.literal("own"),
    sha256: sha256Schema,
    fileName: z.string().min(1).max(1024),
    place: z.enum(WORD_PLACES),
    /** Its longer side, as a share of the frame's shorter one. */
    size: z.number().min(0.02).max(1),
    opacity: share,
  }),
]);
export type Graphic = z.infer<typeof graphicSchema>;

import { z } from "zod";
import { colourSchema, filmShapeSchema, lengthSchema, sha256Schema } from "../../values/index.ts";
import { captionStyleSchema, lettersSchema } from "./letters.ts";
import { edgeSchema, graphicSchema, lookSchema, overlaySchema } from "./looks.ts";

/**
 * How pictures look, move and follow one another, and how words on them are written. The show has a
 * whole style; a passage and a slide say only what they do differently, and null means: as the one
 * above has it. So nothing must be set slide by slide, and any one slide may still differ.
 */

/** Where a wipe goes to. */
export const WIPE_DIRECTIONS = [
  "right",
  "left",
  "down",
  "up",
  "down-right",
  "down-left",
  "up-right",
  "up-left",
] as const;
export const PUSH_DIRECTIONS = ["left", "right", "up", "down"] as const;
export const TURN_DIRECTIONS = ["left", "right"] as const;

const length = lengthSchema;
const drawnTransitions = [
  /** Both pictures in even shares. */
  z.object({ kind: z.literal("dissolve"), length }),
  /** Down to a colour and out of it. */
  z.object({ kind: z.literal("dip"), length, colour: colourSchema }),
  /** An edge crosses the frame; `softness` is its width, as a share of the way. */
  z.object({
    kind: z.literal("wipe"),
    length,
    direction: z.enum(WIPE_DIRECTIONS),
    softness: z.number().min(0).max(1),
  }),
  /** The new picture pushes the old one out. */
  z.object({ kind: z.literal("push"), length, direction: z.enum(PUSH_DIRECTIONS) }),
  /** A tide of light and dark: the new picture comes through a slope as wide as the frame. */
  z.object({ kind: z.literal("gradient"), length, direction: z.enum(WIPE_DIRECTIONS) }),
  /** A circle opens around the subject. */
  z.object({ kind: z.literal("iris"), length }),
  /** The old picture is turned over like a page. */
  z.object({ kind: z.literal("page-turn"), length, direction: z.enum(TURN_DIRECTIONS) }),
  /** Through the old picture into the new one. */
  z.object({ kind: z.literal("zoom"), length }),
  /** A light that is brightest where the picture changes. */
  z.object({ kind: z.literal("light-flash"), length }),
] as const;

/** A transition that takes time. */
export type DrawnTransition = z.infer<(typeof drawnTransitions)[number]>;

export const VARIED_KINDS = [
  "dissolve",
  "dip",
  "wipe",
  "push",
  "gradient",
  "iris",
  "page-turn",
  "zoom",
  "light-flash",
] as const satisfies readonly DrawnTransition["kind"][];

const transitionSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("cut") }),
  ...drawnTransitions,
  /** One of the kinds at random, never the one before again where there are two. */
  z.object({ kind: z.literal("vary"), length, kinds: z.array(z.enum(VARIED_KINDS)).min(1).max(VARIED_KINDS.length) }),
]);
export type TransitionWish = z.infer<typeof transitionSchema>;

const fillSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("blur") }),
  z.object({ kind: z.literal("colour"), colour: colourSchema }),
  /** Another picture, blurred no more than it is. */
  z.object({ kind: z.literal("picture"), sha256: sha256Schema }),
  /**
   * The pictures before and after it, where they are as upright as it is: two or three side by
   * side.
   */
  z.object({ kind: z.literal("neighbours") }),
  /** Nothing: the picture always covers the frame, around its subject. */
  z.object({ kind: z.literal("crop") }),
  /**
   * A blurred copy. In a film that is taller than wide, pictures fill the frame where no head is
   * cut: as "crop", else two pictures one above the other.
   */
  z.object({ kind: z.literal("auto") }),
]);
/** What stands beside a picture that does not cover the frame. */
export type Fill = z.infer<typeof fillSchema>;

const shapeFillSchema = z.object({ shape: filmShapeSchema, fill: fillSchema });
/** A fill for films of one shape only. */
type ShapeFill = z.infer<typeof shapeFillSchema>;
/** One entry a shape at most. */
const shapeFillsSchema = z.array(shapeFillSchema).max(16);

export const MOVE_KINDS = ["still", "rule", "in", "out", "left", "right", "up", "down"] as const;

const moveSchema = z.object({
  /** "rule": at random, so that neighbours differ. The others say where the frame goes. */
  kind: z.enum(MOVE_KINDS),
  /** 0 hardly, 1 as far as an eye follows gladly. */
  strength: z.number().min(0).max(1),
  /** The move begins where the music rises and arrives on the slide's strongest accent. */
  withMusic: z.boolean(),
});
export type MoveWish = z.infer<typeof moveSchema>;

export const styleSchema = z.object({
  transition: transitionSchema,
  fill: fillSchema,
  /** Where films of a shape have another fill. */
  shapeFills: shapeFillsSchema,
  move: moveSchema,
  letters: lettersSchema,
  captions: captionStyleSchema,
  look: lookSchema,
  edge: edgeSchema,
  overlay: overlaySchema,
  graphic: graphicSchema,
});
export type Style = z.infer<typeof styleSchema>;

export const styleWishesSchema = z.object({
  transition: transitionSchema.nullable(),
  fill: fillSchema.nullable(),
  /** Empty: as the one above has them, unless `fill` says otherwise. */
  shapeFills: shapeFillsSchema,
  move: moveSchema.nullable(),
  letters: lettersSchema.nullable(),
  captions: captionStyleSchema.nullable(),
  look: lookSchema.nullable(),
  edge: edgeSchema.nullable(),
  overlay: overlaySchema.nullable(),
  graphic: graphicSchema.nullable(),
});
export type StyleWishes = z.infer<typeof styleWishesSchema>;

/** A passage or slide that does nothing differently. */
export const AS_ABOVE: StyleWishes = {
  transition: null,
  fill: null,
  shapeFills: [],
  move: null,
  letters: null,
  captions: null,
  look: null,
  edge: null,
  overlay: null,
  graphic: null,
};

/** Words of a show that nobody has decided anything about yet: light on a soft shadow. */
export const FIRST_LETTERS: Style["letters"] = {
  titleSet: "quay",
  font: "Josefin Sans",
  weight: 400,
  italic: false,
  spacing: 0,
  capitals: "as-written",
  colour: "#fff8ec",
  outline: null,
  shadow: 0.6,
  backing: null,
  fade: { unit: "beats", count: 1 },
  entrance: "fade",
};
export const FIRST_CAPTIONS: Style["captions"] = { shown: true, place: "bottom", size: 1 };

/** Pictures as they were taken. */
export const FIRST_LOOKS: Pick<Style, "look" | "edge" | "overlay" | "graphic"> = {
  look: { kind: "none", strength: 0.6, levels: 0 },
  edge: { kind: "none" },
  overlay: { kind: "none", strength: 0.5 },
  graphic: { kind: "none" },
};

/** Of a show that nobody has decided anything about yet. */
export const FIRST_STYLE: Style = {
  transition: { kind: "dissolve", length: { unit: "seconds", count: 0.8 } },
  fill: { kind: "auto" },
  shapeFills: [],
  move: { kind: "rule", strength: 0.5, withMusic: false },
  letters: FIRST_LETTERS,
  captions: FIRST_CAPTIONS,
  ...FIRST_LOOKS,
};

/**
 * Wishes over a style: what they leave open stays. A fill that is wished for all shapes also stands
 * in place of what the style has for single ones.
 */
export const styleWith = (style: Style, wishes: StyleWishes): Style => ({
  transition: wishes.transition ?? style.transition,
  fill: wishes.fill ?? style.fill,
  shapeFills: wishes.fill
    ? wishes.shapeFills
    : wishes.shapeFills.reduce((fills, { shape, fill }) => withShapeFill(fills, shape, fill), style.shapeFills),
  move: wishes.move ?? style.move,
  letters: wishes.letters ?? style.letters,
  captions: wishes.captions ?? style.captions,
  look: wishes.look ?? style.look,
  edge: wishes.edge ?? style.edge,
  overlay: wishes.overlay ?? style.overlay,
  graphic: wishes.graphic ?? style.graphic,
});

/** With another fill for films of a shape; null: with none of its own. */
export function withShapeFill(fills: readonly ShapeFill[], shape: string, fill: Fill | null): ShapeFill[] {
  const others = fills.filter((other) => other.shape !== shape);
  return fill ? [...others, { shape, fill }] : others;
}

/** The fill of a style in films of a shape ("16:9"). */
export const fillIn = ({ fill, shapeFills }: Pick<Style, "fill" | "shapeFills">, shape: string): Fill =>
  shapeFills.find((other) => other.shape === shape)?.fill ?? fill;

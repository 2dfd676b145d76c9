import { z } from "zod";

/**
 * The show document: only what a person decided. Everything else (facts of files, slots, frames) is measured or derived,
 * so nothing in here can go stale.
 */
const SHOW_DOCUMENT_VERSION = 1;

const sha256 = z.string().regex(/^[0-9a-f]{64}$/);
const fileName = z.string().min(1).max(1024);

export const frameRateSchema = z.object({
  num: z.number().int().positive().max(1_000_000),
  den: z.number().int().positive().max(1_000_000),
});

const slideSchema = z.object({
  id: z.string().min(1).max(64),
  sha256,
  fileName,
  /** The slide begins on the landing nearest to this second of the song: a person put it there. */
  landingLockSeconds: z.number().nonnegative().nullable(),
});
export type Slide = z.infer<typeof slideSchema>;

const gridEditSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("twice") }),
  z.object({ kind: z.literal("half") }),
  z.object({ kind: z.literal("oneHere"), seconds: z.number().nonnegative() }),
  z.object({ kind: z.literal("nudge"), milliseconds: z.number().min(-2000).max(2000) }),
]);

const paceSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("auto") }),
  z.object({ kind: z.literal("bar") }),
  z.object({ kind: z.literal("beats"), count: z.number().int().positive().max(1000) }),
]);
/** How long slides stand: best overall fit, one a bar, or one every so many beats. */
export type Pace = z.infer<typeof paceSchema>;

const transitionSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("cut") }),
  z.object({ kind: z.literal("dissolve"), seconds: z.number().positive().max(10) }),
]);
export type TransitionWish = z.infer<typeof transitionSchema>;

const fillSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("blur") }),
  z.object({ kind: z.literal("colour"), colour: z.string().regex(/^#[0-9a-f]{6}$/) }),
]);
/** What stands beside a picture that does not cover the frame. */
export type Fill = z.infer<typeof fillSchema>;

export const showDocumentSchema = z.object({
  version: z.literal(SHOW_DOCUMENT_VERSION),
  title: z.string().max(200),
  frameRate: frameRateSchema,
  size: z.object({ width: z.number().int().min(16).max(7680), height: z.number().int().min(16).max(7680) }),
  slides: z.array(slideSchema).max(5000),
  song: z.object({ sha256, fileName }).nullable(),
  gridEdits: z.array(gridEditSchema).max(1000),
  pace: paceSchema,
  transition: transitionSchema,
  fill: fillSchema,
});
export type ShowDocument = z.infer<typeof showDocumentSchema>;

/** A show that nobody has decided anything about yet. 25 fps, 1080p, dissolves of 0.8 s, best overall fit. */
export function newShowDocument(title: string): ShowDocument {
  return {
    version: SHOW_DOCUMENT_VERSION,
    title,
    frameRate: { num: 25, den: 1 },
    size: { width: 1920, height: 1080 },
    slides: [],
    song: null,
    gridEdits: [],
    pace: { kind: "auto" },
    transition: { kind: "dissolve", seconds: 0.8 },
    fill: { kind: "blur" },
  };
}

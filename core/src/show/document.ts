import { z } from "zod";

/**
 * The show document: only what a person decided. Everything else (facts of files, slots, frames) is measured or derived,
 * so nothing in here can go stale.
 */
export const SHOW_DOCUMENT_VERSION = 2;

const sha256 = z.string().regex(/^[0-9a-f]{64}$/);
const fileName = z.string().min(1).max(1024);
const id = z.string().min(1).max(64);

export const frameRateSchema = z.object({
  num: z.number().int().positive().max(1_000_000),
  den: z.number().int().positive().max(1_000_000),
});

const ratingSchema = z.enum(["keep", "maybe", "out"]);
/** "out": not in the film, but in reach. */
export type Rating = z.infer<typeof ratingSchema>;

const turnSchema = z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)]);
/** Degrees clockwise, after what the file's own metadata says. */
export type Turn = z.infer<typeof turnSchema>;

const slideSchema = z.object({
  id,
  sha256,
  fileName,
  passageId: id,
  caption: z.string().max(2000),
  rating: ratingSchema,
  /** One of the few that deserve a long, strong place. */
  hero: z.boolean(),
  turn: turnSchema,
  /** The slide begins on the landing nearest to this second of the song: a person put it there. */
  landingLockSeconds: z.number().nonnegative().nullable(),
});
export type Slide = z.infer<typeof slideSchema>;

const seconds = z.number().nonnegative();
const stretch = { startSeconds: seconds, endSeconds: seconds };

/** Corrections of the grid: what each does is written down with GridEdit in core/grid. */
const gridEditSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("twice") }),
  z.object({ kind: z.literal("half") }),
  z.object({ kind: z.literal("triple") }),
  z.object({ kind: z.literal("third") }),
  z.object({ kind: z.literal("oneHere"), seconds }),
  z.object({ kind: z.literal("meter"), beatsPerBar: z.number().int().min(1).max(16), seconds }),
  z.object({ kind: z.literal("nudge"), milliseconds: z.number().min(-2000).max(2000) }),
  z.object({ kind: z.literal("drag"), seconds, toSeconds: seconds }),
  z.object({ kind: z.literal("fixedTempo"), ...stretch, bpm: z.number().min(20).max(400).nullable() }),
  z.object({ kind: z.literal("freeTime"), ...stretch }),
  z.object({ kind: z.literal("addBeat"), seconds }),
  z.object({ kind: z.literal("deleteBeat"), seconds }),
  z.object({ kind: z.literal("tapped"), seconds: z.array(seconds).min(1).max(20_000).readonly() }),
]);

export const paceSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("auto") }),
  z.object({ kind: z.literal("bar") }),
  z.object({ kind: z.literal("beats"), count: z.number().int().positive().max(1000) }),
]);
/** How long slides stand: best overall fit, one a bar, or one every so many beats. */
export type Pace = z.infer<typeof paceSchema>;

export const transitionSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("cut") }),
  z.object({ kind: z.literal("dissolve"), seconds: z.number().positive().max(10) }),
]);
export type TransitionWish = z.infer<typeof transitionSchema>;

export const fillSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("blur") }),
  z.object({ kind: z.literal("colour"), colour: z.string().regex(/^#[0-9a-f]{6}$/) }),
]);
/** What stands beside a picture that does not cover the frame. */
export type Fill = z.infer<typeof fillSchema>;

export const frameSizeSchema = z.object({
  width: z.number().int().min(16).max(7680),
  height: z.number().int().min(16).max(7680),
});

export const passageNameSchema = z.string().max(200);

const passageSchema = z.object({
  id,
  /** Empty for a passage that nobody has named. */
  name: passageNameSchema,
  /** Into each slide of the passage; null: as the show has it. */
  transition: transitionSchema.nullable(),
});
/** A run of neighbouring slides that share their style. It may be empty: a place that waits for pictures. */
export type Passage = z.infer<typeof passageSchema>;

export const showDocumentSchema = z
  .object({
    version: z.literal(SHOW_DOCUMENT_VERSION),
    title: z.string().max(200),
    event: z.string().max(200),
    /** The day of the event, "2031-06-21". */
    date: z
      .string()
      .regex(/^\d{4}-\d{2}-\d{2}$/)
      .nullable(),
    client: z.string().max(200),
    /** Null, or the id of a slide that has gone: the first slide of the film. */
    posterSlideId: id.nullable(),
    frameRate: frameRateSchema,
    size: frameSizeSchema,
    /** In the order of the film; at least one. */
    passages: z.array(passageSchema).min(1).max(500),
    /** In the order of the film: passage after passage. */
    slides: z.array(slideSchema).max(5000),
    /** The order is the client's and does not change until it is unlocked. */
    orderLocked: z.boolean(),
    /** Seconds to add to a camera's times, by camera name ("" for files that name none); cameras without an entry are right. */
    clockOffsets: z.record(z.string().max(200), z.number().min(-3.2e9).max(3.2e9)),
    song: z.object({ sha256, fileName }).nullable(),
    gridEdits: z.array(gridEditSchema).max(1000),
    pace: paceSchema,
    transition: transitionSchema,
    fill: fillSchema,
  })
  .superRefine((show, context) => {
    const problem = disorder(show);
    if (problem) context.addIssue({ code: "custom", message: problem });
  });
export type ShowDocument = z.infer<typeof showDocumentSchema>;

/** What the fields cannot say by themselves: ids are unique, and slides lie passage after passage. Null where all is well. */
function disorder(show: { passages: readonly Passage[]; slides: readonly Slide[] }): string | null {
  const places = new Map(show.passages.map((passage, index) => [passage.id, index]));
  if (places.size < show.passages.length) return "two passages have the same id";
  const known = new Set<string>();
  let at = 0;
  for (const slide of show.slides) {
    if (known.has(slide.id)) return `two slides have the id "${slide.id}"`;
    known.add(slide.id);
    const place = places.get(slide.passageId);
    if (place === undefined) return `slide "${slide.id}" lies in a passage that does not exist`;
    if (place < at) return `slide "${slide.id}" lies outside the run of its passage`;
    at = place;
  }
  return null;
}

/** The passage that every show begins with. */
const FIRST_PASSAGE: Passage = { id: "p1", name: "", transition: null };

/** A show that nobody has decided anything about yet. 25 fps, 1080p, dissolves of 0.8 s, best overall fit, one passage. */
export function newShowDocument(title: string): ShowDocument {
  return {
    version: SHOW_DOCUMENT_VERSION,
    title,
    event: "",
    date: null,
    client: "",
    posterSlideId: null,
    frameRate: { num: 25, den: 1 },
    size: { width: 1920, height: 1080 },
    passages: [FIRST_PASSAGE],
    slides: [],
    orderLocked: false,
    clockOffsets: {},
    song: null,
    gridEdits: [],
    pace: { kind: "auto" },
    transition: { kind: "dissolve", seconds: 0.8 },
    fill: { kind: "blur" },
  };
}

/** A slide as it comes in: kept, not a hero, the right way up, in the show's first passage. */
export function newSlide(facts: Pick<Slide, "id" | "sha256" | "fileName">, passageId = FIRST_PASSAGE.id): Slide {
  return { ...facts, passageId, caption: "", rating: "keep", hero: false, turn: 0, landingLockSeconds: null };
}

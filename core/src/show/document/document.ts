import { z } from "zod";
import { asFrames, asSeconds, type Seconds } from "../../time/index.ts";
import {
  filmShapeSchema,
  frameRateSchema,
  frameSizeSchema,
  paceSchema,
  pointSchema,
  sha256Schema,
  viewSchema,
} from "../../values/index.ts";
import {
  AS_ABOVE,
  FIRST_LAYOUT,
  FIRST_STYLE,
  layoutSchema,
  styleSchema,
  styleWishesSchema,
  wordsSchema,
} from "../style/index.ts";
import { clientOfferSchema, FIRST_CLIENT_OFFER } from "./client-page.ts";
import { type FilmOutput, mainOutput, outputsSchema } from "./outputs.ts";
import { type ShowSong, showSongSchema } from "./show-song.ts";
import { clipSoundWishSchema, FIRST_MIX, soundMixSchema, type Voice, voicesSchema } from "./voice.ts";

/**
 * The show document: only what a person decided. Everything else (facts of files, slots, frames) is
 * measured or derived, so nothing in here can go stale.
 */
export const SHOW_DOCUMENT_VERSION = 19;

const id = z.string().min(1).max(64);

const ratingSchema = z.enum(["keep", "maybe", "out"]);
/** "out": not in the film, but in reach. */
export type Rating = z.infer<typeof ratingSchema>;

const turnSchema = z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)]);
/** Degrees clockwise, after what the file's own metadata says. */
export type Turn = z.infer<typeof turnSchema>;

const songPlaceSchema = z.object({
  songId: id,
  /** Of the song's own decode. */
  seconds: asSeconds(z.number().nonnegative()),
  /** How often this second was heard before: 0 unless the song comes back to it. */
  turn: z.number().int().min(0).max(1000),
});
/** A place in the music that keeps its meaning when songs before it come, go or are rearranged. */
export type SongPlace = z.infer<typeof songPlaceSchema>;

const landingLockSchema = songPlaceSchema.extend({
  /** The slide begins just there, on a beat or not; else on the landing nearest to it. */
  exact: z.boolean(),
});
/** Where a person put the beginning of a slide. */
export type LandingLock = z.infer<typeof landingLockSchema>;

/** Beyond these a clip looks broken rather than slow or quick. Common practice. */
export const SLOWEST_CLIP = 0.5;
export const FASTEST_CLIP = 2;

const clipPartSchema = z
  .object({
    /** Of the clip's own time; out exclusive, null: to its end. */
    inSeconds: asSeconds(z.number().nonnegative()),
    outSeconds: asSeconds(z.number().positive()).nullable(),
    /** The instant that should land on an accent. */
    momentSeconds: asSeconds(z.number().nonnegative()).nullable(),
    /** Seconds of the clip in a second of the film. */
    speed: z.number().min(SLOWEST_CLIP).max(FASTEST_CLIP),
  })
  .refine(
    ({ inSeconds, outSeconds }) => outSeconds === null || outSeconds > inSeconds,
    "a clip's out lies behind its in",
  );
/** What of a clip may be shown. */
export type ClipPart = z.infer<typeof clipPartSchema>;

const slideViewSchema = z.object({
  /** Of the film. */
  shape: filmShapeSchema,
  start: viewSchema,
  /** As the start: the picture stands still. */
  end: viewSchema,
});
/** How a slide is seen in films of one shape. */
export type SlideView = z.infer<typeof slideViewSchema>;

export const MOST_PICTURES = 6;
const morePictureSchema = z.object({
  sha256: sha256Schema,
  fileName: z.string().min(1).max(1024),
  turn: turnSchema,
  subject: pointSchema.nullable(),
});
/** A picture on a slide that has its own already. */
export type MorePicture = z.infer<typeof morePictureSchema>;

export const MOST_FORMER_FILES = 5;
/** A file that stood on a slide, with what was decided about it and not about the slide. */
const formerFileSchema = z.object({
  sha256: sha256Schema,
  fileName: z.string().min(1).max(1024),
  turn: turnSchema,
  subject: pointSchema.nullable(),
  views: z.array(slideViewSchema).max(16),
  clip: clipPartSchema.nullable(),
});
export type FormerFile = z.infer<typeof formerFileSchema>;

/**
 * How long the slide wishes to stand, or with `locked` does stand, whatever its passage's pace;
 * null: as the pace says.
 */
export const slideLengthSchema = z
  .object({ seconds: asSeconds(z.number().min(0.04).max(3600)), locked: z.boolean() })
  .nullable();

const slideSchema = z.object({
  id,
  /** Null for a card: a slide that is only words. */
  sha256: sha256Schema.nullable(),
  /** As the file was called; empty for a card. */
  fileName: z.string().max(1024),
  passageId: id,
  /** Seen on the picture where its style shows captions. */
  caption: z.string().max(2000),
  /** Seen on the picture or the card, from the first up. */
  words: z.array(wordsSchema).max(4),
  rating: ratingSchema,
  /** One of the few that deserve a long, strong place. */
  hero: z.boolean(),
  turn: turnSchema,
  landingLock: landingLockSchema.nullable(),
  length: slideLengthSchema,
  /** Never left out for want of room. */
  stays: z.boolean(),
  /** Null for pictures, and for clips of which all may be shown. */
  clip: clipPartSchema.nullable(),
  /** What is heard of its clip; null: as by rule (FIRST_CLIP_SOUND). */
  sound: clipSoundWishSchema,
  /** What it does differently from its passage. */
  style: styleWishesSchema,
  /**
   * The place that must stay in view, where a person put it: shares of the picture as it is drawn;
   * null: as it was found.
   */
  subject: pointSchema.nullable(),
  /** Where a person put the frame, one entry a shape of film at most. */
  views: z.array(slideViewSchema).max(16),
  /** Files that stood here before, the latest first: each can be put back. */
  formerFiles: z.array(formerFileSchema).max(MOST_FORMER_FILES),
  /** Pictures that stand on the slide beside its own. */
  more: z.array(morePictureSchema).max(MOST_PICTURES - 1),
  /** How they are laid out, where there are any. */
  layout: layoutSchema,
});
export type Slide = z.infer<typeof slideSchema>;

const leadSchema = z.discriminatedUnion("kind", [
  /** The film is as long as its music; slides stretch, are left out or come again. */
  z.object({ kind: z.literal("song") }),
  /** Slides keep their time; the music is faded out on the bar where they end. */
  z.object({ kind: z.literal("slides") }),
  /** The film is exactly this long; both give. */
  z.object({ kind: z.literal("length"), seconds: asSeconds(z.number().min(1).max(36_000)) }),
]);
/** Which side keeps its length where slides and music disagree. */
export type Lead = z.infer<typeof leadSchema>;

export const transitionLandingSchema = z.object({
  /**
   * Which frame of a transition is meant to hit the landing: its first, the one that shows half of
   * each picture, or the first after it.
   */
  point: z.enum(["start", "middle", "end"]),
  /** So many frames before the landing. Common practice: an eye is slower than an ear. */
  leadFrames: asFrames(z.number().int().min(0).max(3)),
});
/** How changes of picture meet their landings. */
export type TransitionLanding = z.infer<typeof transitionLandingSchema>;

const seedSchema = z.number().int().min(0).max(0xffff_ffff);

export const passageNameSchema = z.string().max(200);

const passageSchema = z.object({
  id,
  /** Empty for a passage that nobody has named. */
  name: passageNameSchema,
  /** What it does differently from the show. */
  style: styleWishesSchema,
  /** Null: the show's. */
  pace: paceSchema.nullable(),
  /** Its first slide begins on the landing nearest to this place of the music. */
  startLock: songPlaceSchema.nullable(),
});
/**
 * A run of neighbouring slides that share their style. It may be empty: a place that waits for
 * pictures.
 */
export type Passage = z.infer<typeof passageSchema>;

/** A lock as it was: of a slide's beginning or length, or of a passage's start. */
const settledLockSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("landing"), id, place: landingLockSchema }),
  z.object({ kind: z.literal("length"), id, seconds: asSeconds(z.number().min(0.04).max(3600)) }),
  z.object({ kind: z.literal("passage"), id, place: songPlaceSchema }),
]);

export const MOST_FORMER_SONGS = 20;

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
    /**
     * Seconds to add to a camera's times, by camera name ("" for files that name none); cameras
     * without an entry are right.
     */
    clockOffsets: z.record(z.string().max(200), z.number().min(-3.2e9).max(3.2e9)),
    /**
     * The locks that were there when a person fitted all again: changes to them move only what is
     * near.
     */
    settledLocks: z.array(settledLockSchema).max(20_000),
    /** In the order of the film. */
    songs: z.array(showSongSchema).max(100),
    /**
     * Songs that are no longer in the film, with everything that was decided about them, the
     * latest first. Locks that name places of them wait for the song, or for a place in another.
     */
    formerSongs: z.array(showSongSchema).max(MOST_FORMER_SONGS),
    /** What is spoken over the film, in no order. */
    voices: voicesSchema,
    mix: soundMixSchema,
    lead: leadSchema,
    pace: paceSchema,
    style: styleSchema,
    transitionLanding: transitionLandingSchema,
    /** No picture moves, whatever the styles say. */
    standsStill: z.boolean(),
    /** Of everything that is drawn at random. */
    seed: seedSchema,
    /** What is handed over, in the order of the list. */
    outputs: outputsSchema,
    clientOffer: clientOfferSchema,
  })
  .superRefine((show, context) => {
    const problem = disorder(show);
    if (problem) context.addIssue({ code: "custom", message: problem });
  });
export type ShowDocument = z.infer<typeof showDocumentSchema>;

/**
 * What the fields cannot say by themselves: ids are unique, slides lie passage after passage. Null
 * where all is well.
 */
function disorder(show: {
  passages: readonly Passage[];
  slides: readonly Slide[];
  songs: readonly ShowSong[];
  formerSongs: readonly ShowSong[];
  voices: readonly Voice[];
  outputs: readonly FilmOutput[];
}): string | null {
  const songs = [...show.songs, ...show.formerSongs];
  if (new Set(songs.map((song) => song.id)).size < songs.length) return "two songs have the same id";
  if (new Set(show.voices.map((voice) => voice.id)).size < show.voices.length) return "two voices have the same id";
  if (new Set(show.outputs.map((output) => output.id)).size < show.outputs.length)
    return "two outputs have the same id";
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

/** A passage about which nothing is decided but its name. */
export function newPassage(id: string, name: string): Passage {
  return { id, name, style: AS_ABOVE, pace: null, startLock: null };
}

/** The passage that every show begins with. */
const FIRST_PASSAGE: Passage = newPassage("p1", "");

/**
 * A show that nobody has decided anything about yet. 25 fps, 1080p, best overall fit, one passage.
 */
export function newShowDocument(title: string): ShowDocument {
  const film = { frameRate: { num: 25, den: 1 }, size: { width: 1920, height: 1080 } };
  return {
    version: SHOW_DOCUMENT_VERSION,
    title,
    event: "",
    date: null,
    client: "",
    posterSlideId: null,
    ...film,
    passages: [FIRST_PASSAGE],
    slides: [],
    orderLocked: false,
    clockOffsets: {},
    settledLocks: [],
    songs: [],
    formerSongs: [],
    voices: [],
    mix: FIRST_MIX,
    lead: { kind: "song" },
    pace: { kind: "auto" },
    style: FIRST_STYLE,
    transitionLanding: { point: "middle", leadFrames: 0 },
    standsStill: false,
    seed: 1,
    outputs: [mainOutput(film)],
    clientOffer: FIRST_CLIENT_OFFER,
  };
}

/** A slide as it comes in: kept, not a hero, the right way up, in the show's first passage. */
export function newSlide(facts: Pick<Slide, "id" | "sha256" | "fileName">, passageId = FIRST_PASSAGE.id): Slide {
  return {
    ...facts,
    passageId,
    caption: "",
    words: [],
    rating: "keep",
    hero: false,
    turn: 0,
    landingLock: null,
    length: null,
    stays: false,
    clip: null,
    sound: null,
    style: AS_ABOVE,
    subject: null,
    views: [],
    formerFiles: [],
    more: [],
    layout: FIRST_LAYOUT,
  };
}

/** A card: a slide that is only words, on a colour of its own. */
export function newCard(id: string, words: Slide["words"], colour: string, seconds: Seconds): Slide {
  return {
    ...newSlide({ id, sha256: null, fileName: "" }),
    words,
    length: { seconds, locked: false },
    stays: true,
    style: { ...AS_ABOVE, fill: { kind: "colour", colour } },
  };
}

/** What a slide is called for people: its file, or the first line of what a card says. */
export function slideName({ fileName, words }: Pick<Slide, "fileName" | "words">): string {
  if (fileName) return fileName;
  const line = words.flatMap(({ text }) => text.split("\n")).find((text) => text.trim() !== "");
  return line ? `“${line.trim().slice(0, 60)}”` : "Empty card";
}

/** A slide that shows a file. */
export type PictureSlide = Slide & { readonly sha256: string };

/** Whether a slide shows a picture or a clip; a card shows words alone. */
export const hasPicture = (slide: Slide): slide is PictureSlide => slide.sha256 !== null;

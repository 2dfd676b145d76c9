import { z } from "zod";
import { itemAt } from "../../presence/index.ts";
import { asSeconds } from "../../time/index.ts";
import { levelCurveSchema, levelSchema } from "./voice.ts";

/**
 * A song of a show with everything that a person decided about it. All times in here are seconds of
 * the song's own decode.
 */

const seconds = z.number().nonnegative();
/** Most beats of one edit: an hour at more than 300 a minute. */
const MOST_BEATS = 20_000;
const stretch = { startSeconds: seconds, endSeconds: seconds };
const id = z.string().min(1).max(64);

/** Corrections of the grid: what each does is written down with GridEdit in core/grid. */
const gridEditSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("twice") }),
  z.object({ kind: z.literal("half") }),
  z.object({ kind: z.literal("triple") }),
  z.object({ kind: z.literal("third") }),
  z.object({ kind: z.literal("stretchLevel"), level: z.enum(["twice", "triple", "half", "third"]), ...stretch }),
  z.object({ kind: z.literal("oneHere"), seconds }),
  z.object({ kind: z.literal("meter"), beatsPerBar: z.number().int().min(1).max(16), seconds }),
  z.object({ kind: z.literal("nudge"), milliseconds: z.number().min(-2000).max(2000) }),
  z.object({ kind: z.literal("drag"), seconds, toSeconds: seconds }),
  z.object({ kind: z.literal("fixedTempo"), ...stretch, bpm: z.number().min(20).max(400).nullable() }),
  z.object({ kind: z.literal("freeTime"), ...stretch }),
  z.object({ kind: z.literal("addBeat"), seconds }),
  z.object({ kind: z.literal("deleteBeat"), seconds }),
  z.object({ kind: z.literal("tapped"), seconds: z.array(seconds).min(1).max(MOST_BEATS).readonly() }),
  z.object({
    kind: z.literal("given"),
    beats: z
      .array(z.object({ seconds, position: z.number().int().min(0).max(64) }))
      .min(1)
      .max(MOST_BEATS)
      .readonly(),
  }),
]);

/**
 * What a marker is for: a change of picture, a strong event, the start of a section, or only a
 * remark.
 */
export const MARKER_KINDS = ["cut", "accent", "section", "note"] as const;
export type MarkerKind = (typeof MARKER_KINDS)[number];

/**
 * Who set a marker: taken over from what was heard, tapped along, put by hand, read from a file. It
 * stays as it was when the marker is moved or renamed.
 */
export const MARKER_ORIGINS = ["detected", "tapped", "placed", "imported"] as const;
export type MarkerOrigin = (typeof MARKER_ORIGINS)[number];

const markerSchema = z.object({
  id,
  seconds,
  name: z.string().max(200),
  kind: z.enum(MARKER_KINDS),
  origin: z.enum(MARKER_ORIGINS),
});
/** A named instant of a song. */
export type Marker = z.infer<typeof markerSchema>;

/** What a section is to the song. */
export const SECTION_ROLES = ["intro", "verse", "chorus", "bridge", "break", "end"] as const;
export type SectionRole = (typeof SECTION_ROLES)[number];

/** Most sections of a song. */
export const MOST_SECTIONS = 500;

const sectionSchema = z.object({
  startSeconds: seconds,
  /** Sections that sound alike have one letter. */
  letter: z.string().max(8),
  /** Given by a person; empty: it is called by its role or its letter. */
  name: z.string().max(60),
  role: z.enum(SECTION_ROLES).nullable(),
});
/** A section of a song as a person has it; it ends where the next one begins. */
export type SongSection = z.infer<typeof sectionSchema>;

/** Where a song jumps: at `fromSeconds` it goes on at `toSeconds`, earlier or later. */
const joinSchema = z.object({ fromSeconds: seconds, toSeconds: seconds });
export type SongJoin = z.infer<typeof joinSchema>;

const entrySchema = z.discriminatedUnion("kind", [
  /** So many seconds of silence after the song before (or after the film's beginning). */
  z.object({ kind: z.literal("gap"), seconds: asSeconds(z.number().min(0).max(600)) }),
  /**
   * Over so many bars of the song before, bars of both kept together. The first song of a show just
   * begins.
   */
  z.object({ kind: z.literal("crossfade"), bars: z.number().int().min(1).max(32) }),
]);
/** How a song follows the one before it. */
export type SongEntry = z.infer<typeof entrySchema>;

/** A tempo change smaller than this is not noticed: 1 %, about a sixth of a semitone. */
export const LARGEST_SPEED_CHANGE = 0.01;
/** Most markers of a song. */
export const MOST_MARKERS = 20_000;

export const showSongSchema = z.object({
  /** Of this place in the show: the same file may be there twice. */
  id,
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  fileName: z.string().min(1).max(1024),
  gridEdits: z.array(gridEditSchema).max(1000),
  markers: z.array(markerSchema).max(MOST_MARKERS),
  /** In order of time; null: as they were heard. */
  sections: z
    .array(sectionSchema)
    .min(1)
    .max(MOST_SECTIONS)
    .refine(
      (sections) =>
        sections.every(({ startSeconds }, i) => i === 0 || startSeconds > itemAt(sections, i - 1).startSeconds),
      "each section begins behind the one before it",
    )
    .nullable(),
  /** Where it begins and ends; null: where the music ends. */
  trimStartSeconds: seconds,
  trimEndSeconds: seconds.nullable(),
  /** In the order in which they are come to. */
  joins: z.array(joinSchema).max(100),
  /** Joins that a person heard and did not want; they are not proposed again. */
  refusedJoins: z.array(joinSchema).max(1000),
  /** 1 is as it was recorded, 1.005 half a percent faster. */
  speed: z
    .number()
    .min(1 - LARGEST_SPEED_CHANGE)
    .max(1 + LARGEST_SPEED_CHANGE),
  entry: entrySchema,
  /**
   * Bars that the music takes to rise at its start and to sink at its end; null at the end: by rule
   * (core/arrange).
   */
  fadeInBars: z.number().int().min(0).max(64),
  fadeOutBars: z.number().int().min(0).max(64).nullable(),
  /** In the song's own time. */
  level: levelCurveSchema,
  /** Beside its level curve. */
  decibels: levelSchema,
  muted: z.boolean(),
});
export type ShowSong = z.infer<typeof showSongSchema>;

/** A song as it comes in: whole, as it was recorded, with nothing decided about it. */
export function newShowSong(facts: Pick<ShowSong, "id" | "sha256" | "fileName">): ShowSong {
  return {
    ...facts,
    gridEdits: [],
    markers: [],
    sections: null,
    trimStartSeconds: 0,
    trimEndSeconds: null,
    joins: [],
    refusedJoins: [],
    speed: 1,
    entry: { kind: "gap", seconds: 0 },
    fadeInBars: 0,
    fadeOutBars: null,
    level: [],
    decibels: 0,
    muted: false,
  };
}

/** Of the only song in documents of version 2. */
export const FIRST_SONG_ID = "song 1";

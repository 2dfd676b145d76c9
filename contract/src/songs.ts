import { asSeconds } from "@humming-tide/core/time";
import { z } from "zod";

const markSchema = z.object({
  seconds: asSeconds(z.number().nonnegative()),
  name: z.string().max(200),
  kind: z.enum(["cut", "accent", "section", "note"]).nullable(),
});

/** Markers that a song's sound is wanted with, as cue points of a WAV. */
export const markedWavSchema = z.object({ markers: z.array(markSchema).max(20_000) });

/** A song that was ever brought in, with what a person noted about it. */
export const librarySongSchema = z.object({
  sha256: z.string(),
  /** Of the file that it came in as. */
  fileName: z.string(),
  title: z.string(),
  durationSeconds: asSeconds(z.number()),
  steady: z.boolean(),
  /** Felt beats a minute; null without a steady beat. */
  tempoBpm: z.number().nullable(),
  tags: z.array(z.string()),
  isFavourite: z.boolean(),
  /** Shows that use it now. */
  showCount: z.number().int().nonnegative(),
});
export type LibrarySong = z.infer<typeof librarySongSchema>;

/** What a person may note about a song of the library. */
export const librarySongNotesSchema = z.object({
  title: z.string().trim().min(1).max(500),
  tags: z.array(z.string().trim().min(1).max(60)).max(40),
  isFavourite: z.boolean(),
});
export type LibrarySongNotes = z.infer<typeof librarySongNotesSchema>;

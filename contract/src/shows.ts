import { showDocumentSchema, templateSchema } from "@humming-tide/core/show";
import { asSeconds } from "@humming-tide/core/time";
import { z } from "zod";
import { mediaFactsSchema } from "./media.ts";

/**
 * Every answer with a status of 400 or more: what happened and what to do, and a code for programs.
 */
export const apiErrorSchema = z.object({
  code: z.string(),
  message: z.string(),
  /** What the message tells, for programs. */
  values: z.record(z.string(), z.unknown()).optional(),
});
export type ApiError = z.infer<typeof apiErrorSchema>;

export const healthSchema = z.object({
  version: z.string(),
  /** Null: everything works. Otherwise what does not, and how to mend it. */
  ffmpegProblem: z.string().nullable(),
});
export type Health = z.infer<typeof healthSchema>;

const title = z.string().trim().min(1).max(200);

/**
 * A new show, bare or with the style, rules and cards of a template; the cards say what is known
 * of the event.
 */
export const createShowSchema = z.object({
  title,
  templateId: z.string().optional(),
  event: showDocumentSchema.shape.event.default(""),
  date: showDocumentSchema.shape.date.default(null),
  client: showDocumentSchema.shape.client.default(""),
});
export type CreateShow = z.input<typeof createShowSchema>;

export const duplicateShowSchema = z.object({ title });

/** Where a show stands on the shelf; deleted ones have a way back for `DELETED_DAYS`. */
export const placeShowSchema = z.object({ place: z.enum(["shelf", "archive", "deleted"]) });
export type ShowPlace = z.infer<typeof placeShowSchema>["place"];

/** Days after which a deleted show is gone for good. */
export const DELETED_DAYS = 30;

export const showSummarySchema = z.object({
  id: z.string(),
  title: z.string(),
  event: z.string(),
  date: z.string().nullable(),
  client: z.string(),
  revision: z.number().int(),
  updatedAt: z.string(),
  place: placeShowSchema.shape.place,
  deletedAt: z.string().nullable(),
  pictureCount: z.number().int(),
  /** Name of the poster as it is drawn (core/picture); null without pictures. */
  poster: z.string().nullable(),
  songFileName: z.string().nullable(),
  songSeconds: asSeconds(z.number()).nullable(),
  /** Null: there is no film yet, or it has not been measured since the last change. */
  filmSeconds: asSeconds(z.number()).nullable(),
  /** What the show wants next; "damaged" and "newer" ones cannot be read. */
  state: z.enum(["pictures-wanted", "song-wanted", "laid-out", "exported", "changed-since-export", "damaged", "newer"]),
  /** Why it cannot be read; null where it can. */
  problem: z.string().nullable(),
});
export type ShowSummary = z.infer<typeof showSummarySchema>;

export const savedShowSchema = z.object({
  id: z.string(),
  revision: z.number().int(),
  document: showDocumentSchema,
  /** Facts of all media that the document names and the server has. */
  media: z.record(z.string(), mediaFactsSchema),
});
export type SavedShow = z.infer<typeof savedShowSchema>;

/** What can be done about a show that cannot be read. */
export const rescueSchema = z.object({
  problem: z.string(),
  /** The newest revision that can be read; null where none can. */
  lastReadable: z.object({ revision: z.number().int(), savedAt: z.string() }).nullable(),
});
export type Rescue = z.infer<typeof rescueSchema>;

const revisionSummarySchema = z.object({
  revision: z.number().int(),
  savedAt: z.string(),
  /** What this revision changed, in short phrases; empty for the first. */
  changes: z.string().array(),
  pictureCount: z.number().int(),
  /** Why it cannot be read; null where it can. */
  problem: z.string().nullable(),
});
export type RevisionSummary = z.infer<typeof revisionSummarySchema>;

/** Newest first; `before` of the next page is the last revision of this one. */
export const revisionPageSchema = z.object({ revisions: revisionSummarySchema.array(), more: z.boolean() });
export type RevisionPage = z.infer<typeof revisionPageSchema>;

/** As many kept variants as one show has at most. */
export const MOST_VARIANTS = 20;

export const keepVariantSchema = z.object({ name: title, revision: z.number().int().min(1) });
export const renameVariantSchema = keepVariantSchema.pick({ name: true });
/** A revision of a show with a name, to compare the film with it or to take it again. */
export const variantSchema = keepVariantSchema.extend({ id: z.string(), keptAt: z.string() });
export type Variant = z.infer<typeof variantSchema>;

export const createTemplateSchema = z.object({ name: title, template: templateSchema });
export const savedTemplateSchema = createTemplateSchema.extend({ id: z.string() });
export type SavedTemplate = z.infer<typeof savedTemplateSchema>;

/**
 * Lines of the answer while a package is opened (newline-delimited JSON): progress, then one of the
 * others.
 */
export const packageEventSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("progress"), done: z.number().int(), total: z.number().int() }),
  z.object({ kind: z.literal("opened"), showId: z.string() }),
  z.object({ kind: z.literal("failed"), code: z.string(), message: z.string() }),
]);
export type PackageEvent = z.infer<typeof packageEventSchema>;

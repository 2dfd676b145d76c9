import { showDocumentSchema } from "@humming-tide/core/show";
import { z } from "zod";
import { mediaFactsSchema } from "./media.ts";

/** Every answer with a status of 400 or more: what happened and what to do, and a code for programs. */
export const apiErrorSchema = z.object({ code: z.string(), message: z.string() });
export type ApiError = z.infer<typeof apiErrorSchema>;

export const healthSchema = z.object({
  version: z.string(),
  /** Null: everything works. Otherwise what does not, and how to mend it. */
  ffmpegProblem: z.string().nullable(),
});
export type Health = z.infer<typeof healthSchema>;

export const createShowSchema = z.object({ title: z.string().trim().min(1).max(200) });
export type CreateShow = z.infer<typeof createShowSchema>;

export const showSummarySchema = z.object({
  id: z.string(),
  title: z.string(),
  revision: z.number().int(),
  updatedAt: z.string(),
  pictureCount: z.number().int(),
  posterSha256: z.string().nullable(),
  songFileName: z.string().nullable(),
  songSeconds: z.number().nullable(),
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

import { findingSchema } from "@humming-tide/core/check";
import { asFrames, asMilliseconds } from "@humming-tide/core/time";
import { z } from "zod";
import { jobStatusSchema } from "./jobs.ts";

/** What was measured where all is well, too. */
export const checkFactsSchema = z.object({
  /** Files that were looked at, and frames that were drawn. */
  files: z.number().int(),
  frames: asFrames(z.number().int()),
  landings: z
    .object({
      count: z.number().int(),
      largestErrorFrames: z.number().nullable(),
      largestErrorMs: asMilliseconds(z.number()).nullable(),
    })
    .nullable(),
  levels: z.object({ integratedLufs: z.number().nullable(), truePeakDbtp: z.number().nullable() }).nullable(),
});
export type CheckFacts = z.infer<typeof checkFactsSchema>;

/** A thorough check of a show: files, frames and sound. */
export const checkRunSchema = jobStatusSchema.extend({
  showId: z.string(),
  /** Of the show that is checked: edits after it are not looked at. */
  revision: z.number().int(),
  findings: z.array(findingSchema),
  facts: checkFactsSchema.nullable(),
});
export type CheckRun = z.infer<typeof checkRunSchema>;

import { filmOutputSchema, MOST_OUTPUTS } from "@humming-tide/core/show";
import { z } from "zod";
import { filmMeasurementSchema } from "./measurement.ts";

export const jobStateSchema = z.enum(["queued", "running", "cancelled", "failed", "done"]);
export type JobState = z.infer<typeof jobStateSchema>;

/** Outputs of the saved show, by id. */
export const exportWishSchema = z.object({ outputIds: z.array(z.string().min(1).max(64)).min(1).max(MOST_OUTPUTS) });

/** A whole path on the server's machine; null: films stay in the data folder alone. */
export const filmsFolderSchema = z.object({ folder: z.string().min(1).max(4096).nullable() });

export const exportJobSchema = z.object({
  id: z.string(),
  showId: z.string(),
  state: jobStateSchema,
  /** What is being done now, as a phrase for people. */
  step: z.string(),
  /** 0 to 1. */
  progress: z.number(),
  secondsLeft: z.number().nullable(),
  /** Why it failed, and what to do; null unless it failed. */
  error: z.string().nullable(),
  /** Starts after the server had stopped in the middle. */
  restarts: z.number().int(),
  fileName: z.string(),
  output: filmOutputSchema,
  bytes: z.number().nullable(),
  createdAt: z.string(),
  measurement: filmMeasurementSchema.nullable(),
  /** Where the film was put for people, beside the data folder; null where no folder was chosen. */
  copiedTo: z.string().nullable(),
});
export type ExportJob = z.infer<typeof exportJobSchema>;

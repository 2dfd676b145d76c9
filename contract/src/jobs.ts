import { filmOutputSchema, MOST_OUTPUTS } from "@humming-tide/core/show";
import { z } from "zod";
import { filmMeasurementSchema } from "./measurement.ts";

/** "paused": it stands still until somebody says that it goes on, from where it was. */
export const jobStateSchema = z.enum(["queued", "running", "paused", "cancelled", "failed", "done"]);
export type JobState = z.infer<typeof jobStateSchema>;

/** What is known of every job: of exports, playable copies, deliveries and checks. */
export const jobStatusSchema = z.object({
  state: jobStateSchema,
  /** What is being done now, as a phrase for people. */
  step: z.string(),
  /** 0 to 1. */
  progress: z.number(),
  /** Null where it cannot be said. */
  secondsLeft: z.number().nullable(),
  /** Why it failed or is paused, and what to do; null otherwise. */
  error: z.string().nullable(),
  /**
   * Jobs that wait run in this order, those of the same place in the order in which they were asked
   * for.
   */
  position: z.number(),
  /** How often it was begun; more than once where the server had stopped in the middle. */
  tries: z.number().int(),
});
export type JobStatus = z.infer<typeof jobStatusSchema>;

/** Whether a job runs or waits for its turn: it will end by itself. */
export const isUnderWay = ({ state }: Pick<JobStatus, "state">): boolean => state === "queued" || state === "running";

/** Outputs of the saved show, by id. */
export const exportWishSchema = z.object({ outputIds: z.array(z.string().min(1).max(64)).min(1).max(MOST_OUTPUTS) });

/** A whole path on the server's machine; null: films stay in the data folder alone. */
export const filmsFolderSchema = z.object({ folder: z.string().min(1).max(4096).nullable() });

export const exportJobSchema = jobStatusSchema.extend({
  id: z.string(),
  showId: z.string(),
  fileName: z.string(),
  output: filmOutputSchema,
  bytes: z.number().nullable(),
  createdAt: z.string(),
  measurement: filmMeasurementSchema.nullable(),
  /** Where the film was put for people, beside the data folder; null where no folder was chosen. */
  copiedTo: z.string().nullable(),
});
export type ExportJob = z.infer<typeof exportJobSchema>;

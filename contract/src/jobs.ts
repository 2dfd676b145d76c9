import { z } from "zod";
import { filmMeasurementSchema } from "./measurement.ts";

export const jobStateSchema = z.enum(["queued", "running", "cancelled", "failed", "done"]);
export type JobState = z.infer<typeof jobStateSchema>;

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
  frameRate: z.object({ num: z.number(), den: z.number() }),
  size: z.object({ width: z.number(), height: z.number() }),
  bytes: z.number().nullable(),
  createdAt: z.string(),
  measurement: filmMeasurementSchema.nullable(),
});
export type ExportJob = z.infer<typeof exportJobSchema>;

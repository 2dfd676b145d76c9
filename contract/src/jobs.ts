import { frameRateSchema, frameSizeSchema } from "@humming-tide/core/show";
import { z } from "zod";
import { filmMeasurementSchema } from "./measurement.ts";

export const jobStateSchema = z.enum(["queued", "running", "cancelled", "failed", "done"]);
export type JobState = z.infer<typeof jobStateSchema>;

/** MP4 with H.264 and AAC, or WebM with VP9 and Opus. */
export const containerSchema = z.enum(["mp4", "webm"]);
export type Container = z.infer<typeof containerSchema>;

/** What a film is exported as. */
export const outputSchema = z.object({
  size: frameSizeSchema,
  frameRate: frameRateSchema,
  container: containerSchema,
});
export type Output = z.infer<typeof outputSchema>;

/** What is not named is as the show itself, in MP4. */
export const outputWishSchema = outputSchema.partial();
export type OutputWish = z.infer<typeof outputWishSchema>;

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
  output: outputSchema,
  bytes: z.number().nullable(),
  createdAt: z.string(),
  measurement: filmMeasurementSchema.nullable(),
});
export type ExportJob = z.infer<typeof exportJobSchema>;

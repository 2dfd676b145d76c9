import { asFrames, asMilliseconds, asSeconds } from "@humming-tide/core/time";
import { z } from "zod";

/**
 * What was measured in the decoded film, beside what was planned. Frames count from 0; errors are
 * shown minus landing.
 */
export const filmMeasurementSchema = z.object({
  ok: z.boolean(),
  film: z.object({
    frames: asFrames(z.number()),
    plannedFrames: asFrames(z.number()),
    width: z.number(),
    height: z.number(),
  }),
  changes: z.array(
    z.object({
      index: z.number(),
      source: z.string(),
      kind: z.string(),
      plannedFrame: asFrames(z.number()),
      measuredFrame: asFrames(z.number()).nullable(),
      landingSeconds: asSeconds(z.number()),
      plannedErrorMs: asMilliseconds(z.number()),
      measuredErrorMs: asMilliseconds(z.number()).nullable(),
      measuredErrorFrames: z.number().nullable(),
    }),
  ),
  largestErrorFrames: z.number().nullable(),
  unseen: z.array(z.object({ index: z.number(), source: z.string(), reason: z.string() })),
  sound: z.object({
    /**
     * Largest lag of all places compared; positive is late. Null where nothing could be compared.
     */
    lagMs: asMilliseconds(z.number()).nullable(),
    /** A silent song has no place that could be measured. */
    songSilent: z.boolean(),
    places: z.array(
      z.object({ filmSeconds: asSeconds(z.number()), lagMs: asMilliseconds(z.number()), match: z.number() }),
    ),
    /**
     * After ITU-R BS.1770 and EBU Tech 3342; numbers are null in silence. Null in films that were
     * measured before it was.
     */
    loudness: z
      .object({ integratedLufs: z.number().nullable(), rangeLu: z.number(), truePeakDbtp: z.number().nullable() })
      .nullable()
      .default(null),
  }),
  /** Each thing that makes `ok` false, as a sentence. */
  problems: z.array(z.string()),
});
export type FilmMeasurement = z.infer<typeof filmMeasurementSchema>;

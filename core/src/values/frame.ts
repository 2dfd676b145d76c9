import { z } from "zod";

/** A film of less is a row of stills, and no screen shows more; each frame of a film is work. */
const LOWEST_FRAME_RATE = 1;
const HIGHEST_FRAME_RATE = 240;

export const frameRateSchema = z
  .object({
    num: z.number().int().positive().max(1_000_000),
    den: z.number().int().positive().max(1_000_000),
  })
  .refine(
    ({ num, den }) => num / den >= LOWEST_FRAME_RATE && num / den <= HIGHEST_FRAME_RATE,
    `a frame rate lies between ${LOWEST_FRAME_RATE} and ${HIGHEST_FRAME_RATE}`,
  );

export const frameSizeSchema = z.object({
  width: z.number().int().min(16).max(7680),
  height: z.number().int().min(16).max(7680),
});

import { asMilliseconds } from "@humming-tide/core/time";
import { z } from "zod";
import { mediaFactsSchema } from "./media.ts";

/** Most files in one announcement; a page sends several for more. */
export const ANNOUNCED_AT_ONCE = 2000;

/** A file that a page or a command is about to bring in, before any of it is sent. */
export const announcedFileSchema = z.object({
  /** Folders and name as the person's machine has them, "card 1/DSC_0001.jpg". */
  path: z.string().min(1).max(4096),
  bytes: z.number().int().nonnegative(),
  /** Milliseconds since 1970, as the person's file system says. */
  modifiedMs: asMilliseconds(z.number()),
});
export type AnnouncedFile = z.infer<typeof announcedFileSchema>;

export const announceSchema = z.object({ files: z.array(announcedFileSchema).max(ANNOUNCED_AT_ONCE) });

/**
 * What the server knows of an announced file: "in" needs no sending, because the same file came in
 * before.
 */
export const intakeFileSchema = announcedFileSchema.extend({
  id: z.string(),
  state: z.enum(["waiting", "in", "refused"]),
  /** Why it was refused. */
  message: z.string().nullable(),
  facts: mediaFactsSchema.nullable(),
});
export type IntakeFile = z.infer<typeof intakeFileSchema>;

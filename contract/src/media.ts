import { z } from "zod";

const common = {
  /** Content hash: the only name that media have. */
  sha256: z.string(),
  fileName: z.string(),
  bytes: z.number().int().nonnegative(),
  mime: z.string(),
};

const pictureFactsSchema = z.object({
  ...common,
  kind: z.literal("picture"),
  /** As seen: after orientation from metadata. */
  width: z.number().int().positive(),
  height: z.number().int().positive(),
  /** Camera time without a zone, "2031-06-21T19:04:11"; null where the file does not say. */
  capturedAt: z.string().nullable(),
});
export type PictureFacts = z.infer<typeof pictureFactsSchema>;

const songFactsSchema = z.object({
  ...common,
  kind: z.literal("song"),
  durationSeconds: z.number().positive(),
  steady: z.boolean(),
  tempoBpm: z.number().nullable(),
  /** Something to tell about the file, for example that it ended early; null where all is well. */
  remark: z.string().nullable(),
});
export type SongFacts = z.infer<typeof songFactsSchema>;

export const mediaFactsSchema = z.discriminatedUnion("kind", [pictureFactsSchema, songFactsSchema]);
export type MediaFacts = z.infer<typeof mediaFactsSchema>;

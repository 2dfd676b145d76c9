import { MOST_HEADS } from "@humming-tide/core/picture";
import { asSeconds } from "@humming-tide/core/time";
import { z } from "zod";
import { jobStatusSchema } from "./jobs.ts";

const common = {
  /** Content hash: the only name that media have. */
  sha256: z.string(),
  fileName: z.string(),
  bytes: z.number().int().nonnegative(),
  mime: z.string(),
};

const share = z.number().min(0).max(1);
const box = z.object({ x: share, y: share, width: share, height: share });
const subjectSchema = z.object({
  point: z.object({ x: share, y: share }),
  region: box,
  /** Absent where they were not looked for. */
  heads: z.array(box).max(MOST_HEADS).optional(),
  /** 0 sharp to 1 soft; absent where there are no heads, or they were not measured. */
  headBlur: share.optional(),
  /** Share of the heads whose eyes seem open; absent where none can be told, or nobody looked. */
  openEyes: share.optional(),
});

/** What pictures and clips both are: something to see, taken at some time by some camera. */
const seen = {
  /** As seen: after orientation from metadata. */
  width: z.number().int().positive(),
  height: z.number().int().positive(),
  /**
   * Camera time without a zone, "2031-06-21T19:04:11", with ".250" where it is known; null where
   * the file does not say.
   */
  capturedAt: z.string().nullable(),
  /** Whether that is universal time, as in many clips; not known of files measured before. */
  isUniversal: z.boolean().default(false),
  /** By how much its clock was ahead of universal time; null where the file does not say. */
  zoneMinutes: z.number().int().min(-900).max(900).nullable().default(null),
  /** Maker and model; empty where the file does not say. */
  camera: z.string().default(""),
  /** For likeness (core/photo-analysis); null for files measured before there was one. */
  fingerprint: z.string().nullable().default(null),
  /** 0 sharp to 1 soft (core/photo-analysis); null for clips and for files measured before. */
  blur: z.number().nullable().default(null),
  /**
   * What must stay in view (core/picture), in shares; null for files measured before there was one.
   */
  subject: subjectSchema.nullable().default(null),
};

const pictureFactsSchema = z.object({
  ...common,
  kind: z.literal("picture"),
  ...seen,
  /**
   * Something to tell about the file, for example that only its first picture is used; null where
   * all is well.
   */
  remark: z.string().nullable().default(null),
  /** A clip in the same file, which phones film around a picture; null where there is none. */
  movingPart: z
    .object({ startByte: z.number().int().positive(), bytes: z.number().int().positive() })
    .nullable()
    .default(null),
});
export type PictureFacts = z.infer<typeof pictureFactsSchema>;

const clipFactsSchema = z.object({
  ...common,
  kind: z.literal("clip"),
  ...seen,
  durationSeconds: asSeconds(z.number().positive()),
  /** Mean rate of a clip whose frames do not come evenly. */
  frameRate: z.object({ num: z.number().int().positive(), den: z.number().int().positive() }),
  variableRate: z.boolean(),
  /**
   * Degrees clockwise that the file's metadata asks to turn it by; width and height are after it.
   */
  turnedDegrees: z.number().int(),
  codec: z.string(),
  sound: z.object({ channels: z.number().int().positive(), sampleRate: z.number().positive() }).nullable(),
  remark: z.string().nullable(),
});
export type ClipFacts = z.infer<typeof clipFactsSchema>;

const songFactsSchema = z.object({
  ...common,
  kind: z.literal("song"),
  durationSeconds: asSeconds(z.number().positive()),
  steady: z.boolean(),
  tempoBpm: z.number().nullable(),
  /** Something to tell about the file, for example that it ended early; null where all is well. */
  remark: z.string().nullable(),
});
export type SongFacts = z.infer<typeof songFactsSchema>;

const voiceFactsSchema = z.object({
  ...common,
  kind: z.literal("voice"),
  durationSeconds: asSeconds(z.number().positive()),
  /**
   * Something to tell about the file, for example that nobody speaks in it; null where all is well.
   */
  remark: z.string().nullable(),
});

export const mediaFactsSchema = z.discriminatedUnion("kind", [
  pictureFactsSchema,
  clipFactsSchema,
  songFactsSchema,
  voiceFactsSchema,
]);
export type MediaFacts = z.infer<typeof mediaFactsSchema>;

/** Something to see: what can stand on a slide. */
export const isSeen = (facts: MediaFacts | undefined): facts is PictureFacts | ClipFacts =>
  facts?.kind === "picture" || facts?.kind === "clip";

/** Where someone speaks in a voice or clip, and how loud it or a song is (core/sound). */
export const speechFactsSchema = z.object({
  durationSeconds: asSeconds(z.number().nonnegative()),
  stretches: z.array(z.object({ startSeconds: asSeconds(z.number()), endSeconds: asSeconds(z.number()) })),
  lufs: z.number().nullable(),
  noiseDecibels: z.number().nullable(),
});

const clipMomentSchema = z.object({
  kind: z.enum(["crowd", "movement", "face"]),
  seconds: asSeconds(z.number().nonnegative()),
  strength: share,
});
const trimSchema = z.object({
  reason: z.enum(["shaky", "still", "dark"]),
  seconds: asSeconds(z.number().positive()),
});

/** What is proposed for a clip (core/clip-analysis), in its own seconds. */
export const clipProposalSchema = z.object({
  version: z.number().int(),
  /** The strongest first. */
  moments: z.array(clipMomentSchema).readonly(),
  /** What to leave out at its ends; null where nothing is. */
  start: trimSchema.nullable(),
  end: trimSchema.nullable(),
  /** Of a long clip, in its order. */
  stretches: z
    .array(
      z.object({
        startSeconds: asSeconds(z.number().nonnegative()),
        endSeconds: asSeconds(z.number().positive()),
        moment: clipMomentSchema.nullable(),
      }),
    )
    .readonly(),
});
export type StoredProposal = z.infer<typeof clipProposalSchema>;

/** The playable copy of a clip, made as a job. */
export const proxyStateSchema = jobStatusSchema.extend({ sha256: z.string() });
export type ProxyState = z.infer<typeof proxyStateSchema>;

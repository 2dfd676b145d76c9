import { z } from "zod";
import { itemAt } from "../../presence/index.ts";
import { asSeconds } from "../../time/index.ts";
import { sha256Schema } from "../../values/index.ts";

/** What is spoken over the film, what clips sound like, and how loud the whole is. */

const id = z.string().min(1).max(64);

/** Sources can be made this much softer and louder. */
export const SOFTEST_DECIBELS = -60;
export const LOUDEST_DECIBELS = 12;
export const levelSchema = z.number().min(SOFTEST_DECIBELS).max(LOUDEST_DECIBELS);

const levelPointSchema = z.object({ seconds: asSeconds(z.number().nonnegative()), decibels: levelSchema });
/**
 * A point of a level curve: straight lines in decibels between them, held before the first and
 * after the last.
 */
export type LevelPoint = z.infer<typeof levelPointSchema>;
/** In rising order. */
export const levelCurveSchema = z.array(levelPointSchema).max(1000);

/** Common practice: longer fades are made by points. */
export const LONGEST_FADE_SECONDS = 20;
/** A clip is heard so much before its picture, and behind it, at most. */
export const LONGEST_OVERHANG_SECONDS = 60;
const fade = z.number().min(0).max(LONGEST_FADE_SECONDS);

const voiceTakeSchema = z.object({ sha256: sha256Schema, fileName: z.string().min(1).max(1024) });
/** A recording of what a voice says; the others are kept. */
export type VoiceTake = z.infer<typeof voiceTakeSchema>;

const voicePlaceSchema = z.object({
  /**
   * It begins with this slide, and moves with it when the film is planned again. Null, or a slide
   * that is not in the film: it begins with the film.
   */
  slideId: id.nullable(),
  /** So much later, or earlier. */
  seconds: asSeconds(z.number().min(-36_000).max(36_000)),
});
export type VoicePlace = z.infer<typeof voicePlaceSchema>;

const voiceSchema = z
  .object({
    id,
    /** What it is called; empty: as the file of its take. */
    name: z.string().max(200),
    takes: z.array(voiceTakeSchema).min(1).max(100),
    /** Index of the take that is heard. */
    take: z.number().int().min(0),
    place: voicePlaceSchema,
    /** Of the take's own time; out exclusive, null: to its end. */
    inSeconds: asSeconds(z.number().nonnegative()),
    outSeconds: asSeconds(z.number().positive()).nullable(),
    /** Beside being evened out to the level of speech. */
    decibels: levelSchema,
    muted: z.boolean(),
    fadeInSeconds: fade,
    fadeOutSeconds: fade,
    /** Noise between and under the words is taken down. */
    cleaned: z.boolean(),
    /** Level of the music under it, in the take's own time, as drawn by hand; empty: by rule. */
    musicLevel: levelCurveSchema,
  })
  .refine(({ take, takes }) => take < takes.length, "a voice has no such take");
/** Something spoken over the film: recorded here or brought in. */
export type Voice = z.infer<typeof voiceSchema>;
export const voicesSchema = z.array(voiceSchema).max(500);

const clipSoundSchema = z.object({
  /**
   * "beside": what it sounds like, beside the music. "speech": evened out like a voice, and the
   * music makes room.
   */
  kind: z.enum(["muted", "beside", "speech"]),
  decibels: levelSchema,
  fadeInSeconds: fade,
  fadeOutSeconds: fade,
  /** So much before its picture it is heard already, and so much behind it still. */
  leadSeconds: asSeconds(z.number().min(0).max(LONGEST_OVERHANG_SECONDS)),
  tailSeconds: asSeconds(z.number().min(0).max(LONGEST_OVERHANG_SECONDS)),
  cleaned: z.boolean(),
});
/** What is heard of a clip. */
export type ClipSound = z.infer<typeof clipSoundSchema>;
export const clipSoundWishSchema = clipSoundSchema.nullable();

/**
 * As a clip is heard about which nobody has decided anything. Common practice: music alone carries
 * a film.
 */
export const FIRST_CLIP_SOUND: ClipSound = {
  kind: "muted",
  decibels: 0,
  fadeInSeconds: 0.3,
  fadeOutSeconds: 0.3,
  leadSeconds: 0,
  tailSeconds: 0,
  cleaned: false,
};

export const soundMixSchema = z.object({
  ducking: z.object({
    decibels: z.number().min(0).max(40),
    attackSeconds: asSeconds(z.number().min(0.02).max(5)),
    holdSeconds: asSeconds(z.number().min(0).max(10)),
    releaseSeconds: asSeconds(z.number().min(0.02).max(10)),
  }),
  /** All songs are brought to the same loudness, the one that speech is evened out to. */
  evensSongs: z.boolean(),
  /** Integrated loudness of the film; null: as it is mixed. */
  targetLufs: z.number().min(-40).max(-8).nullable(),
});
/** What holds for the sound of the whole film. */
export type SoundMix = z.infer<typeof soundMixSchema>;

/**
 * Common practice: music lies 12 dB lower under speech, sinks within a third of a second and comes
 * back in one; -14 LUFS is what video sites play at.
 */
export const FIRST_MIX: SoundMix = {
  ducking: { decibels: 12, attackSeconds: 0.35, holdSeconds: 0.4, releaseSeconds: 1 },
  evensSongs: true,
  targetLufs: -14,
};

/** A voice as it comes in. */
export function newVoice(id: string, take: VoiceTake, place: VoicePlace): Voice {
  return {
    id,
    name: "",
    takes: [take],
    take: 0,
    place,
    inSeconds: 0,
    outSeconds: null,
    decibels: 0,
    muted: false,
    fadeInSeconds: 0,
    fadeOutSeconds: 0,
    cleaned: false,
    musicLevel: [],
  };
}

/** The recording of a voice that is heard. */
export const takeOf = ({ takes, take }: Voice): VoiceTake => itemAt(takes, take);
/** What a voice is called: its own name, else that of its file. */
export const voiceName = (voice: Voice): string => voice.name || takeOf(voice).fileName;

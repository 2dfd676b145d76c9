import type { Seconds } from "../time/index.ts";
import type { SpeechFacts } from "./speech.ts";

/** What a sound that came in sounds like: music, someone speaking, or neither for certain. */
export type SoundKind = "song" | "voice" | "unclear";

/** What a kind is called behind the name of a file. */
export const SOUND_KIND_WORDS: Readonly<Record<SoundKind, string>> = {
  song: "sounds like a song",
  voice: "sounds like someone speaking",
  unclear: "could be music or speech",
};

/** What was heard in a sound that came in. */
interface HeardBeat {
  readonly durationSeconds: Seconds;
  /** It has a steady beat. */
  readonly steady: boolean;
}

/** Music has a steady beat for at least this long; jingles and ringtones are asked about. */
const SHORTEST_SONG_SECONDS = 30;
/** A speech is words for at least this share of its time, with its pauses. */
const SPEECH_SHARE = 0.3;
/** Less is a shout in a concert, or nothing. */
const LITTLE_SPEECH_SHARE = 0.1;

/**
 * A steady beat makes it a song; without one, what is spoken in it decides. `speech` is null where
 * it is not known.
 */
export function soundKind({ steady, durationSeconds }: HeardBeat, speech: SpeechFacts | null): SoundKind {
  if (steady) return durationSeconds >= SHORTEST_SONG_SECONDS ? "song" : "unclear";
  if (!speech) return "unclear";
  const spoken = speech.stretches.reduce((sum, { startSeconds, endSeconds }) => sum + endSeconds - startSeconds, 0);
  const share = spoken / Math.max(1, durationSeconds);
  if (share >= SPEECH_SHARE) return "voice";
  return share < LITTLE_SPEECH_SHARE && durationSeconds >= SHORTEST_SONG_SECONDS ? "song" : "unclear";
}

/**
 * The sound that becomes the song of a show that has none, without a question: the only one, where
 * it is no voice; else the first that sounds like a song. Null: a person has to say.
 */
export function firstSong<Sound extends { readonly kind: SoundKind }>(sounds: readonly Sound[]): Sound | null {
  const [only] = sounds;
  if (sounds.length === 1 && only && only.kind !== "voice") return only;
  return sounds.find(({ kind }) => kind === "song") ?? null;
}

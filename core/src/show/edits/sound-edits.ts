import {
  type ClipSound,
  FIRST_CLIP_SOUND,
  newVoice,
  type ShowDocument,
  type SoundMix,
  type Voice,
  type VoicePlace,
  type VoiceTake,
} from "../document/index.ts";

/**
 * Edits of what is heard beside the songs: pure; one that changes nothing returns the same
 * document.
 */

/** "voice 1", "voice 2" …: the next that no voice has. */
export function freeVoiceId(show: ShowDocument): string {
  const numbers = show.voices.map(({ id }) => Number(/^voice (\d+)$/.exec(id)?.[1] ?? 0));
  return `voice ${Math.max(0, ...numbers) + 1}`;
}

/** Adds a voice at a place; its id is the free one. */
export const addVoice = (show: ShowDocument, take: VoiceTake, place: VoicePlace): ShowDocument => ({
  ...show,
  voices: [...show.voices, newVoice(freeVoiceId(show), take, place)],
});

/** What may be changed about a voice. */
export type VoiceChange = Partial<Omit<Voice, "id">>;

/** Changes what a person decided about a voice. */
export const changeVoice = (show: ShowDocument, voiceId: string, change: VoiceChange): ShowDocument => ({
  ...show,
  voices: show.voices.map((voice) => (voice.id === voiceId ? { ...voice, ...change } : voice)),
});

/**
 * Another recording of the same: it is the one that is heard from now on; what was drawn and cut in
 * the time of the old one goes.
 */
export function addTake(show: ShowDocument, voiceId: string, take: VoiceTake): ShowDocument {
  const voice = show.voices.find(({ id }) => id === voiceId);
  if (!voice) return show;
  const known = voice.takes.findIndex(({ sha256 }) => sha256 === take.sha256);
  if (known >= 0) return chooseTake(show, voiceId, known);
  const takes = [...voice.takes, take];
  return changeVoice(show, voiceId, { takes, take: takes.length - 1, ...AS_RECORDED });
}

const AS_RECORDED: VoiceChange = { inSeconds: 0, outSeconds: null, musicLevel: [] };

/**
 * Lets another recording of a voice be heard; its length and curve begin anew. `take` counts from
 * 0.
 */
export function chooseTake(show: ShowDocument, voiceId: string, take: number): ShowDocument {
  const voice = show.voices.find(({ id }) => id === voiceId);
  if (!voice?.takes[take] || voice.take === take) return show;
  return changeVoice(show, voiceId, { take, ...AS_RECORDED });
}

/** Takes a recording out of a voice; the last one takes the voice with it. */
export function removeTake(show: ShowDocument, voiceId: string, take: number): ShowDocument {
  const voice = show.voices.find(({ id }) => id === voiceId);
  if (!voice?.takes[take]) return show;
  if (voice.takes.length === 1) return removeVoice(show, voiceId);
  const takes = voice.takes.toSpliced(take, 1);
  if (take === voice.take)
    return changeVoice(show, voiceId, { takes, take: Math.min(take, takes.length - 1), ...AS_RECORDED });
  return changeVoice(show, voiceId, { takes, take: voice.take > take ? voice.take - 1 : voice.take });
}

/** Takes a voice out of the show, with all of its recordings. */
export function removeVoice(show: ShowDocument, voiceId: string): ShowDocument {
  const voices = show.voices.filter(({ id }) => id !== voiceId);
  return voices.length === show.voices.length ? show : { ...show, voices };
}

/**
 * Changes what is heard of the clips on slides, from what it is by rule where nothing was decided.
 */
export const changeClipSound = (
  show: ShowDocument,
  slideIds: ReadonlySet<string>,
  change: Partial<ClipSound>,
): ShowDocument => ({
  ...show,
  slides: show.slides.map((slide) =>
    slideIds.has(slide.id) ? { ...slide, sound: { ...(slide.sound ?? FIRST_CLIP_SOUND), ...change } } : slide,
  ),
});

/** Changes loudness and room for speech of the whole show. */
export const changeMix = (show: ShowDocument, change: Partial<SoundMix>): ShowDocument => ({
  ...show,
  mix: { ...show.mix, ...change },
});

import type { ArrangedMusic } from "../arrange/index.ts";
import { present } from "../presence/index.ts";
import {
  type ClipSound,
  FIRST_CLIP_SOUND,
  type LevelPoint,
  type ShowDocument,
  slideName,
  takeOf,
  type Voice,
  type VoicePlace,
  voiceName,
} from "../show/index.ts";
import {
  amplitude,
  type DecibelCurve,
  duckingCurve,
  gainProduct,
  lowerOf,
  musicLevel,
  risingPower,
  type SoundPiece,
  type SoundPlan,
  type SpokenStretch,
  sinkingPower,
  soundName,
} from "../sound/index.ts";
import { clockText, type FrameRate, type Frames, frameStart, type Seconds } from "../time/index.ts";
import type { FilmFacts } from "./film-facts.ts";
import type { PlannedPicture } from "./plan-pictures.ts";

/** Something about the sound that a person should know, and whose sound it is. */
export interface SoundRemark {
  readonly ownerId: string;
  readonly text: string;
}

/** What a piece of speech does to the music: seen over the Score, and shaped there. */
export interface PlannedSound {
  readonly sound: SoundPlan;
  /** The music's level under speech in decibels over film time, the fade at the end left out. */
  readonly ducking: DecibelCurve;
  /** Where speech was found, in film time. */
  readonly speech: readonly SpokenStretch[];
  readonly mutedVoices: readonly MutedVoice[];
  readonly remarks: readonly SoundRemark[];
}

/** A voice that is not heard, where it would be. */
export interface MutedVoice {
  readonly voiceId: string;
  readonly time: SoundPiece["time"];
}

/**
 * Speech, and songs where a show evens them, are brought to this: music that has made room lies
 * under speech by what it is ducked.
 */
const EVEN_LUFS = -16;
/** What is hardly there is not blown up by more than this. */
const MOST_EVENING_DECIBELS = 20;
/** A recording that is cut anywhere begins and ends within this, so that nothing clicks. */
const EDGE_SECONDS = 0.008;
/** True peak after EBU R 128, and half a decibel for what encoding adds (docs/sound.md). */
const CEILING_DBTP = -1.5;

type SoundShow = Pick<ShowDocument, "voices" | "slides" | "songs" | "mix">;

/** What of a slot its sound depends on. */
interface HeardSlot extends Pick<PlannedPicture, "clip"> {
  readonly slideId: string;
  readonly round: number;
  readonly startFrame: Frames;
  readonly endFrame: Frames;
}

interface FilmTimes {
  readonly slots: readonly HeardSlot[];
  readonly filmSeconds: Seconds;
  readonly secondsOf: (frame: Frames) => number;
  /** A fade of the music's own end that a person chose; null: by rule. */
  readonly fadeStartSeconds: Seconds | null;
}

/**
 * The film's whole sound: songs as they are arranged, voices where they are placed, the sound of
 * clips in step with their pictures, music making room for speech. What is not measured yet (no
 * facts) is left out and comes with its facts. O(pieces + speech).
 */
export function planSound(show: SoundShow, facts: FilmFacts, music: ArrangedMusic, times: FilmTimes): PlannedSound {
  const spoken = [...show.voices.map((voice) => voiceSound(voice, facts, times)), ...clipSounds(show, facts, times)];
  const speech = spoken.flatMap((one) => (one.isHeard ? one.speech : []));
  const drawn = spoken.filter((one) => one.isHeard && one.musicLevel.length > 0);
  const byRule = duckingCurve(
    spoken.flatMap((one) => (one.isHeard && one.musicLevel.length === 0 ? one.speech : [])),
    show.mix.ducking,
  );
  const ducking = drawn.reduce<DecibelCurve>((curve, one) => lowerOf(curve, one.musicLevel), byRule);
  const bars = music.grid.beats.filter((beat) => beat.position === 1).map((beat) => beat.seconds);
  const { gain, fadeOut } = musicLevel(times.filmSeconds, bars, times.fadeStartSeconds, ducking);
  return {
    sound: {
      pieces: [
        ...songPieces(show, facts, music),
        ...spoken.flatMap(({ piece, isHeard }) => (isHeard && piece ? [piece] : [])),
      ],
      lengthSeconds: times.filmSeconds,
      musicGain: gain,
      fadeOut,
      master: { targetLufs: show.mix.targetLufs, ceilingDbtp: CEILING_DBTP },
    },
    ducking,
    speech,
    mutedVoices: spoken.flatMap(({ piece, isHeard, ownerId }) =>
      piece && !isHeard ? [{ voiceId: ownerId, time: piece.time }] : [],
    ),
    remarks: [...spoken.flatMap(({ remarks }) => remarks), ...overlaps(spoken)],
  };
}

/**
 * Songs at their levels; muted ones are not heard, but the film lies on their beats all the same.
 */
function songPieces({ songs, mix }: SoundShow, facts: FilmFacts, music: ArrangedMusic): SoundPiece[] {
  return music.pieces.flatMap((piece) => {
    const song = songs.find(({ id }) => id === piece.songId);
    if (!song || song.muted) return [];
    const lufs = mix.evensSongs ? (facts.speech(song.sha256)?.lufs ?? null) : null;
    return [withGain(piece, song.decibels + evening(lufs))];
  });
}

const evening = (lufs: number | null): number =>
  lufs === null ? 0 : Math.max(-MOST_EVENING_DECIBELS, Math.min(MOST_EVENING_DECIBELS, EVEN_LUFS - lufs));

/** A level over a whole piece. */
function withGain({ owner, soundName: name, time, gain }: SoundPiece, decibels: number): SoundPiece {
  const level = amplitude(decibels);
  const scaled = gain.map((point) => ({ ...point, gain: point.gain * level }));
  return { owner, soundName: name, time, gain: scaled.length > 0 ? scaled : [{ seconds: 0, gain: level }] };
}

/** A voice or a clip's sound in the film. */
interface SpokenSound {
  readonly name: string;
  readonly ownerId: string;
  readonly piece: SoundPiece | null;
  readonly isHeard: boolean;
  readonly speech: readonly SpokenStretch[];
  /** Of the music in film time, drawn by hand; empty: by rule. */
  readonly musicLevel: DecibelCurve;
  readonly remarks: readonly SoundRemark[];
}

/** Where a recording lies in the film. */
interface Placing {
  /** Film seconds of the recording's own second 0, as fast as it is played. */
  readonly originSeconds: Seconds;
  /** Seconds of the recording in a second of the film. */
  readonly speed: number;
  /** Of the film, the end exclusive. */
  readonly startSeconds: Seconds;
  readonly endSeconds: Seconds;
}

function voiceSound(voice: Voice, facts: FilmFacts, times: FilmTimes): SpokenSound {
  const { sha256 } = takeOf(voice);
  const heard = facts.speech(sha256);
  const name = voiceName(voice);
  const none = { name, ownerId: voice.id, piece: null, isHeard: false, speech: [], musicLevel: [] };
  if (!heard) return { ...none, remarks: [] };
  const remark = (text: string): SoundRemark => ({ ownerId: voice.id, text });
  const remarks: SoundRemark[] = [];
  const slot = times.slots.find(({ slideId, round }) => slideId === voice.place.slideId && round === 0);
  if (voice.place.slideId !== null && !slot)
    remarks.push(
      remark(`The slide with which “${name}” begins is not in the film: it counts from the film's beginning.`),
    );
  const inSeconds = Math.min(voice.inSeconds, heard.durationSeconds);
  const outSeconds = Math.min(voice.outSeconds ?? heard.durationSeconds, heard.durationSeconds);
  const wished = (slot ? times.secondsOf(slot.startFrame) : 0) + voice.place.seconds;
  const placing: Placing = {
    originSeconds: wished - inSeconds,
    speed: 1,
    startSeconds: Math.max(0, wished),
    endSeconds: Math.min(times.filmSeconds, wished + outSeconds - inSeconds),
  };
  if (placing.endSeconds - placing.startSeconds < EDGE_SECONDS)
    return {
      ...none,
      remarks: [...remarks, remark(`“${name}” lies outside of the film: move it, or make the film longer.`)],
    };
  const beyond = wished + outSeconds - inSeconds - times.filmSeconds;
  if (beyond > 0.05)
    remarks.push(
      remark(
        `“${name}” goes on for ${beyond.toFixed(1)} s behind the film's end and is faded there: move it earlier, or trim it.`,
      ),
    );
  if (wished < -0.05)
    remarks.push(
      remark(`“${name}” would begin ${(-wished).toFixed(1)} s before the film: that much of it is not heard.`),
    );
  if (heard.stretches.length === 0)
    remarks.push(remark(`No speech was found in “${name}”: it is heard, but the music does not make room for it.`));
  const inFilm = (curve: readonly LevelPoint[]): DecibelCurve =>
    curve.map(({ seconds, decibels }) => ({ seconds: placing.originSeconds + seconds, decibels }));
  return {
    name,
    ownerId: voice.id,
    isHeard: !voice.muted,
    piece: spokenPiece({
      owner: { kind: "voice", id: voice.id },
      soundName: soundName(sha256, voice.cleaned ? "cleaned" : "spoken"),
      placing,
      decibels: voice.decibels + evening(heard.lufs),
      fadeInSeconds: voice.fadeInSeconds,
      fadeOutSeconds: voice.fadeOutSeconds,
    }),
    speech: speechInFilm(heard.stretches, placing),
    musicLevel: drawnMusicLevel(inFilm(voice.musicLevel), placing, SHAPED_EDGE_SECONDS),
    remarks,
  };
}

/** Outside of what was drawn the music is as loud as ever; it goes there within this. */
const SHAPED_EDGE_SECONDS = 0.25;

function drawnMusicLevel(curve: DecibelCurve, { startSeconds, endSeconds }: Placing, edge: number): DecibelCurve {
  const inside = curve.filter(({ seconds }) => seconds >= startSeconds - 10 && seconds <= endSeconds + 10);
  const [first, last] = [inside[0], inside.at(-1)];
  if (!first || !last) return [];
  return [{ seconds: first.seconds - edge, decibels: 0 }, ...inside, { seconds: last.seconds + edge, decibels: 0 }];
}

/** Clips whose slides let them be heard, the first time they are shown and each time again. */
function clipSounds(show: SoundShow, facts: FilmFacts, times: FilmTimes): SpokenSound[] {
  const slides = new Map(show.slides.map((slide) => [slide.id, slide]));
  return times.slots.flatMap((slot): SpokenSound[] => {
    const slide = slides.get(slot.slideId);
    const sound: ClipSound = slide?.sound ?? FIRST_CLIP_SOUND;
    if (!slide || slide.sha256 === null || !slot.clip || sound.kind === "muted") return [];
    const heard = facts.speech(slide.sha256);
    if (!heard) return [];
    const name = slideName(slide);
    const placing = clipPlacing(slot, slot.clip, sound, heard.durationSeconds, times);
    const isSpeech = sound.kind === "speech";
    const silent = heard.lufs === null;
    const remark = silent
      ? `“${name}” has no sound that could be heard.`
      : isSpeech && heard.stretches.length === 0
        ? `No speech was found in “${name}”: it is heard, but the music does not make room for it.`
        : null;
    const isThere = placing.endSeconds - placing.startSeconds > EDGE_SECONDS && !silent;
    return [
      {
        name,
        ownerId: slide.id,
        isHeard: isThere,
        piece: isThere
          ? spokenPiece({
              owner: { kind: "clip", id: slide.id },
              soundName: soundName(slide.sha256, sound.cleaned ? "cleaned" : "spoken"),
              placing,
              decibels: sound.decibels + (isSpeech ? evening(heard.lufs) : 0),
              fadeInSeconds: sound.fadeInSeconds,
              fadeOutSeconds: sound.fadeOutSeconds,
            })
          : null,
        speech: isSpeech && isThere ? speechInFilm(heard.stretches, placing) : [],
        musicLevel: [],
        remarks: remark === null ? [] : [{ ownerId: slide.id, text: remark }],
      },
    ];
  });
}

/** The clip's sound runs as its picture does, wherever it begins and ends. */
function clipPlacing(
  slot: HeardSlot,
  clip: NonNullable<HeardSlot["clip"]>,
  { leadSeconds, tailSeconds }: ClipSound,
  durationSeconds: Seconds,
  { filmSeconds, secondsOf }: FilmTimes,
): Placing {
  const [slotStart, slotEnd] = [secondsOf(slot.startFrame), secondsOf(slot.endFrame)];
  const speed = clip.secondsPerFrame / (secondsOf(1) - secondsOf(0));
  const originSeconds = secondsOf(clip.startFrame) - clip.startSeconds / speed;
  const filmAt = (clipSeconds: Seconds): number => originSeconds + clipSeconds / speed;
  // Where the picture stands still on its first or last frame, there is no sound to it.
  const first = Math.max(slotStart, filmAt(clip.firstSeconds)) - leadSeconds;
  const last = Math.min(slotEnd, filmAt(clip.lastSeconds)) + tailSeconds;
  return {
    originSeconds,
    speed,
    startSeconds: Math.max(0, first, filmAt(0)),
    endSeconds: Math.min(filmSeconds, last, filmAt(durationSeconds)),
  };
}

interface SpokenPieceWish {
  readonly owner: SoundPiece["owner"];
  readonly soundName: string;
  readonly placing: Placing;
  readonly decibels: number;
  readonly fadeInSeconds: Seconds;
  readonly fadeOutSeconds: Seconds;
}

function spokenPiece(wish: SpokenPieceWish): SoundPiece {
  const { originSeconds, speed, startSeconds, endSeconds } = wish.placing;
  const length = endSeconds - startSeconds;
  const fadeIn = Math.min(length / 2, Math.max(EDGE_SECONDS, wish.fadeInSeconds));
  const fadeOut = Math.min(length / 2, Math.max(EDGE_SECONDS, wish.fadeOutSeconds));
  const point = (filmSeconds: Seconds): SoundPiece["time"][number] => ({
    filmSeconds,
    soundSeconds: (filmSeconds - originSeconds) * speed,
  });
  const piece: SoundPiece = {
    owner: wish.owner,
    soundName: wish.soundName,
    time: [point(startSeconds), point(endSeconds)],
    gain: gainProduct([
      risingPower(startSeconds, startSeconds + fadeIn),
      sinkingPower(endSeconds - fadeOut, endSeconds),
    ]),
  };
  return withGain(piece, wish.decibels);
}

const speechInFilm = (
  stretches: readonly SpokenStretch[],
  { originSeconds, speed, startSeconds, endSeconds }: Placing,
): SpokenStretch[] =>
  stretches
    .map((stretch) => ({
      startSeconds: Math.max(startSeconds, originSeconds + stretch.startSeconds / speed),
      endSeconds: Math.min(endSeconds, originSeconds + stretch.endSeconds / speed),
    }))
    .filter((stretch) => stretch.endSeconds - stretch.startSeconds > 0.02);

/** Two that speak at once are not understood. */
function overlaps(spoken: readonly SpokenSound[]): SoundRemark[] {
  const all = spoken
    .filter(({ isHeard }) => isHeard)
    .flatMap(({ speech, name, ownerId }) => speech.map((stretch) => ({ ...stretch, name, ownerId })))
    .sort((a, b) => a.startSeconds - b.startSeconds);
  const said = new Set<string>();
  const remarks: SoundRemark[] = [];
  let latest = all[0];
  for (const one of all.slice(1)) {
    const pair = `${present(latest).ownerId} ${one.ownerId}`;
    if (
      one.ownerId !== present(latest).ownerId &&
      one.startSeconds < present(latest).endSeconds - 0.1 &&
      !said.has(pair)
    ) {
      said.add(pair);
      remarks.push({
        ownerId: one.ownerId,
        text: `“${present(latest).name}” and “${one.name}” speak at the same time at ${clockText(one.startSeconds)}.`,
      });
    }
    if (one.endSeconds > present(latest).endSeconds) latest = one;
  }
  return remarks;
}

/**
 * The place of a voice that begins at a moment of the film: with the slide that is seen there.
 * O(slots).
 */
export function placeInFilm(
  { slots, rate }: { readonly slots: readonly HeardSlot[]; readonly rate: FrameRate },
  filmSeconds: Seconds,
): VoicePlace {
  const secondsOf = secondsOfFrames(rate);
  const slot = slots.findLast(({ startFrame, round }) => round === 0 && secondsOf(startFrame) <= filmSeconds + 1e-9);
  if (!slot) return { slideId: null, seconds: filmSeconds };
  // Below a millisecond nobody hears a difference, and documents stay readable.
  return { slideId: slot.slideId, seconds: Math.round(1000 * (filmSeconds - secondsOf(slot.startFrame))) / 1000 };
}

/** Film seconds of the beginning of a frame. */
export const secondsOfFrames =
  (rate: FrameRate) =>
  (frame: Frames): number =>
    frameStart(frame, rate);

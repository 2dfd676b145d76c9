import type { ArrangedMusic } from "../arrange/index.ts";
import {
  explainFit,
  type FitMessage,
  type FitRequest,
  type FittedSlot,
  type Landing,
  type LockName,
  type UnmetWish,
  unmetWishes,
} from "../fit/index.ts";
import type { PictureTrack } from "../picture/index.ts";
import { itemAt, lastOf } from "../presence/index.ts";
import { type ShowDocument, type Slide, slideName } from "../show/index.ts";
import type { DecibelCurve, SoundPlan, SpokenStretch } from "../sound/index.ts";
import {
  type FrameRate,
  type Frames,
  frameStart,
  type Milliseconds,
  nearestFrame,
  type Seconds,
} from "../time/index.ts";
import type { FilmFacts } from "./film-facts.ts";
import { fitShow } from "./fit-show.ts";
import { type PlannedPicture, planPictures } from "./plan-pictures.ts";
import { type MutedVoice, planSound, type SoundRemark, secondsOfFrames } from "./plan-sound.ts";

export interface FilmSlot extends PlannedPicture {
  readonly index: number;
  readonly slideId: string;
  readonly slideIndex: number;
  readonly round: number;
  /** Null for a card. */
  readonly sha256: string | null;
  /** What the slide is called for people. */
  readonly name: string;
  /**
   * The frame that is meant to hit the landing, so many frames before it as the show's lead says.
   */
  readonly startFrame: Frames;
  /** Exclusive. */
  readonly endFrame: Frames;
  /** The musical event, in film time; null for the first slot. */
  readonly landing: Landing | null;
  /** 1000 * (time of startFrame + lead - landing), signed; null for the first slot. */
  readonly landingErrorMs: Milliseconds | null;
  readonly locked: boolean;
  /** What was wished for its length where it lies, in seconds. */
  readonly wishedSeconds: Seconds;
}

export interface FilmPlan extends PictureTrack {
  readonly rate: FrameRate;
  readonly totalFrames: Frames;
  /** How many frames before its landing each change is shown. */
  readonly leadFrames: Frames;
  readonly slots: readonly FilmSlot[];
  readonly sound: SoundPlan;
  /** Level of the music under speech, in decibels over film time. */
  readonly ducking: DecibelCurve;
  /** Where speech is heard, in film time. */
  readonly speech: readonly SpokenStretch[];
  readonly mutedVoices: readonly MutedVoice[];
  readonly soundRemarks: readonly SoundRemark[];
  /** All songs as one music in film time. */
  readonly music: ArrangedMusic;
  readonly messages: readonly FitMessage[];
  /** Indices of slides that found no room; those that a person left out are not among them. */
  readonly leftOut: readonly number[];
  readonly repeats: number;
  /** The smallest set of locks that cannot hold together, and all that this film does not keep. */
  readonly conflict: readonly LockName[];
  readonly unmetLocks: readonly LockName[];
  /** The dearest first. */
  readonly unmetWishes: readonly UnmetWish[];
  /** Of docs/fit.md. */
  readonly cost: number;
  /** How loud the music is, from -1 to 1, at even steps from the film's start. */
  readonly loudness: { readonly stepSeconds: Seconds; readonly values: readonly number[] };
}

/** The picture follows the music into silence, but only over its last second. */
const PICTURE_FADE_SECONDS = 1;

/**
 * The film that follows from a show and the facts of its files. Pure and fast (milliseconds for
 * hundreds of slides), so nothing of it is ever stored. Throws `no-song`, `no-slides` or
 * `missing-picture` where there is no film yet.
 */
export function planFilm(show: ShowDocument, facts: FilmFacts): FilmPlan {
  const { request, result: fit, used, music, totalFrames } = fitShow(show, facts);
  const rate = show.frameRate;
  const endSeconds = frameStart(totalFrames, rate);
  const { leadFrames } = show.transitionLanding;
  const starts = fit.slots.map((slot) => (slot.landing ? nearestFrame(slot.landing.seconds, rate) - leadFrames : 0));
  const laid = fit.slots.map((slot, index) => ({
    slide: itemAt(used, slot.slideIndex).slide,
    round: slot.round,
    startFrame: itemAt(starts, index),
    endFrame: starts[index + 1] ?? totalFrames,
    landingSeconds: slot.landing?.seconds ?? null,
  }));
  const pictures = planPictures(show, laid, facts, music);
  const slots = fit.slots.map((slot, index): FilmSlot => {
    const { slide, index: slideIndex } = itemAt(used, slot.slideIndex);
    const landedFrame = itemAt(starts, index) + leadFrames;
    return {
      ...itemAt(pictures, index),
      ...slotFacts(slot, slide),
      index,
      slideIndex,
      landingErrorMs: slot.landing && (1000 * landedFrame * rate.den) / rate.num - 1000 * slot.landing.seconds,
    };
  });
  const { sound, ducking, speech, mutedVoices, remarks } = planSound(show, facts, music, {
    slots,
    filmSeconds: endSeconds,
    secondsOf: secondsOfFrames(rate),
    fadeStartSeconds: chosenFade(music, endSeconds),
  });
  return {
    rate,
    size: show.size,
    totalFrames,
    leadFrames,
    slots,
    fadeOut: pictureFade(lastOf(slots), totalFrames, rate),
    watermark: null,
    loopBack: null,
    sound,
    ducking,
    speech,
    mutedVoices,
    soundRemarks: remarks,
    music,
    messages: explainFit(request, fit),
    leftOut: fit.leftOut.map((index) => itemAt(used, index).index),
    repeats: fit.repeats,
    conflict: fit.conflict,
    unmetLocks: fit.unmetLocks,
    unmetWishes: unmetWishes(request, fit),
    cost: fit.cost,
    loudness: loudnessBySecond(request.music, endSeconds),
  };
}

const loudnessBySecond = (music: FitRequest["music"], endSeconds: Seconds): FilmPlan["loudness"] => ({
  stepSeconds: 1,
  values: Array.from({ length: Math.ceil(endSeconds) + 1 }, (_, second) => music.loudnessAt(second)),
});

/** What a slot has from its slide and from the fit. */
const slotFacts = ({ round, landing, locked, wishedSeconds }: FittedSlot, slide: Slide) => ({
  slideId: slide.id,
  round,
  sha256: slide.sha256,
  name: slideName(slide),
  landing,
  locked,
  wishedSeconds,
});

/**
 * A fade that a person chose is that of the music's own end: a film that ends before it fades by
 * rule.
 */
const chosenFade = (music: ArrangedMusic, endSeconds: Seconds): number | null =>
  endSeconds < music.lengthSeconds - 0.05 ? null : music.fadeOutSeconds;

function pictureFade(last: FilmSlot, totalFrames: Frames, rate: FrameRate): PictureTrack["fadeOut"] {
  const length = nearestFrame(PICTURE_FADE_SECONDS, rate);
  const startFrame = totalFrames - length;
  // The last picture must first have been seen whole for as long as it takes to sink.
  return startFrame - length >= last.transitionIn.endFrame ? { startFrame, endFrame: totalFrames } : null;
}

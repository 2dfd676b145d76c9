import { HummingTideError } from "../failure/index.ts";
import { explainFit, type FitMessage, type FitRequest, fitSlides, type LandingCandidate } from "../fit/index.ts";
import { correctedGrid, type Grid } from "../grid/index.ts";
import type { MusicAnalysis } from "../music/index.ts";
import {
  drawnPicture,
  type PictureTrack,
  type PlannedTransition,
  placeTransitions,
  type Size,
  turnedSize,
} from "../picture/index.ts";
import type { ShowDocument, Slide, TransitionWish } from "../show/index.ts";
import { planSound, type SoundPlan } from "../sound/index.ts";
import {
  type FrameRate,
  type Frames,
  frameAt,
  frameStart,
  frames,
  framesToCover,
  nearestFrame,
  seconds,
} from "../time/index.ts";

/** What was measured of the files that a show names, by content hash. */
export interface FilmFacts {
  readonly song: MusicAnalysis;
  readonly pictureSize: (sha256: string) => Size | undefined;
}

export interface FilmSlot {
  readonly index: number;
  readonly slideId: string;
  readonly slideIndex: number;
  readonly round: number;
  readonly sha256: string;
  readonly fileName: string;
  /** Name of the picture as it is drawn. */
  readonly picture: string;
  /** As it is drawn, after all turning. */
  readonly pictureSize: Size;
  /** The landing's frame. */
  readonly startFrame: number;
  /** Exclusive. */
  readonly endFrame: number;
  /** The musical event, in film time; null for the first slot. */
  readonly landing: LandingCandidate | null;
  /** 1000 * (time of startFrame - landing), signed; null for the first slot. */
  readonly landingErrorMs: number | null;
  readonly locked: boolean;
  readonly transitionIn: PlannedTransition;
}

export interface FilmPlan extends PictureTrack {
  readonly rate: FrameRate;
  readonly totalFrames: number;
  readonly slots: readonly FilmSlot[];
  readonly sound: SoundPlan;
  readonly grid: Grid;
  readonly messages: readonly FitMessage[];
  /** Indices of slides that found no room; those that a person left out are not among them. */
  readonly leftOut: readonly number[];
  readonly repeats: number;
  readonly unmetLocks: readonly string[];
}

/** The picture follows the music into silence, but only over its last second. */
const PICTURE_FADE_SECONDS = 1;

/**
 * The film that follows from a show and the facts of its files. Pure and fast (milliseconds for hundreds of slides), so nothing of it is
 * ever stored. Throws `no-song`, `no-slides` or `missing-picture` where there is no film yet.
 */
export function planFilm(show: ShowDocument, facts: FilmFacts): FilmPlan {
  if (!show.song) {
    throw new HummingTideError("no-song", "A film needs a song to lay its pictures on, and this show has none yet.");
  }
  const rate = show.frameRate;
  const grid = correctedGrid(facts.song, show.gridEdits);
  const totalFrames = filmFrames(facts.song, rate);
  const endSeconds = frameStart(totalFrames, rate);
  const used = slidesOfTheFilm(show);
  const request: FitRequest = {
    slides: used.map(({ slide }) => slide),
    beats: grid.beats,
    beatsPerBar: grid.beatsPerBar,
    endSeconds,
    pace: show.pace,
  };
  const fit = fitSlides(request);
  const starts = fit.slots.map((slot) => (slot.landing ? nearestFrame(seconds(slot.landing.seconds), rate) : 0));
  const wishes = fit.slots.slice(1).map((slot) => transitionInto(show, used[slot.slideIndex]!.slide));
  const transitions = placeTransitions([...starts, totalFrames], wishes, rate);
  const slots = fit.slots.map((slot, index): FilmSlot => {
    const { slide, index: slideIndex } = used[slot.slideIndex]!;
    const storedSize = facts.pictureSize(slide.sha256);
    if (!storedSize) {
      throw new HummingTideError(
        "missing-picture",
        `The picture "${slide.fileName}" of slide ${slideIndex + 1} is missing from the data folder.`,
      );
    }
    const startFrame = starts[index]!;
    return {
      index,
      slideId: slide.id,
      slideIndex,
      round: slot.round,
      sha256: slide.sha256,
      fileName: slide.fileName,
      picture: drawnPicture(slide.sha256, slide.turn),
      pictureSize: turnedSize(storedSize, slide.turn),
      startFrame,
      endFrame: starts[index + 1] ?? totalFrames,
      landing: slot.landing,
      landingErrorMs: slot.landing ? (1000 * startFrame * rate.den) / rate.num - 1000 * slot.landing.seconds : null,
      locked: slot.locked,
      transitionIn: index === 0 ? { kind: "cut", startFrame: 0, endFrame: 0 } : transitions[index - 1]!,
    };
  });
  const bars = grid.beats.filter((beat) => beat.position === 1).map((beat) => beat.seconds);
  return {
    rate,
    size: show.size,
    totalFrames,
    slots,
    fill: show.fill,
    fadeOut: pictureFade(slots.at(-1)!, totalFrames, rate),
    sound: planSound(show.song.sha256, endSeconds, bars),
    grid,
    messages: explainFit(request, fit),
    leftOut: fit.leftOut.map((index) => used[index]!.index),
    repeats: fit.repeats,
    unmetLocks: fit.unmetLocks,
  };
}

interface UsedSlide {
  readonly slide: Slide & { readonly rating: "keep" | "maybe" };
  /** Its place among all slides of the show. */
  readonly index: number;
}

function slidesOfTheFilm(show: ShowDocument): UsedSlide[] {
  const used: UsedSlide[] = [];
  for (const [index, slide] of show.slides.entries()) {
    if (slide.rating !== "out") used.push({ slide: { ...slide, rating: slide.rating }, index });
  }
  if (used.length === 0 && show.slides.length > 0) {
    throw new HummingTideError(
      "no-slides",
      `All ${show.slides.length} pictures of this show are left out. A film needs at least one that is kept.`,
    );
  }
  return used;
}

/** What leads into a slide: its passage's transition, or else the show's. */
function transitionInto(show: ShowDocument, slide: Slide): TransitionWish {
  return show.passages.find((passage) => passage.id === slide.passageId)?.transition ?? show.transition;
}

/** The film ends with the music: on the first whole frame after its last sound, never later than the file itself. */
function filmFrames(song: MusicAnalysis, rate: FrameRate): Frames {
  const end = song.musicEndSeconds > 0 ? song.musicEndSeconds : song.durationSeconds;
  const atMost = Math.max(1, frameAt(seconds(song.durationSeconds), rate));
  return frames(Math.min(framesToCover(seconds(end), rate), atMost));
}

function pictureFade(last: FilmSlot, totalFrames: number, rate: FrameRate): PictureTrack["fadeOut"] {
  const length = nearestFrame(seconds(PICTURE_FADE_SECONDS), rate);
  const startFrame = totalFrames - length;
  // The last picture must first have been seen whole for as long as it takes to sink.
  return startFrame - length >= last.transitionIn.endFrame ? { startFrame, endFrame: totalFrames } : null;
}

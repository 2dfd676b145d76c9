import type { Grid } from "../grid/index.ts";
import {
  NO_WORDS,
  type PlannedWords,
  type Rectangle,
  type Size,
  type SlotWords,
  type WordTime,
} from "../picture/index.ts";
import type { Slide, Style, WordPlace, Words } from "../show/index.ts";
import { type FrameRate, type Frames, framesPerSecond } from "../time/index.ts";
import { designWords, secondsToRead } from "../words/index.ts";
import { beatFrame } from "./beat-frame.ts";
import type { FrameSpan, SlideTimes } from "./laid-slide.ts";
import { lengthInSeconds } from "./length-in-seconds.ts";
import { placeOffFaces } from "./place-off-faces.ts";
import { withEntrance } from "./plan-entrance.ts";

/**
 * Where words stand for which nobody chose a place, if they cover no face there. Common practice.
 */
export const DEFAULT_PLACES: Readonly<Record<Words["kind"], WordPlace>> = {
  title: "middle",
  text: "middle",
  "lower-third": "bottom-left",
  end: "middle",
  credits: "middle",
};

/**
 * Words wait for a beat, or go before their slide does, for no more than this share of the time
 * that it stands alone.
 */
const LONGEST_WAIT = 0.25;
/** A fade takes at most this share of the time that words have. */
const LONGEST_FADE = 0.35;

/**
 * The words that are seen on a slide, and when. With a fade they begin to appear on the first beat
 * after the slide stands alone. They are gone on the last beat before it changes; without one they
 * come and go with their slide, as do words that could not be read otherwise. Words of the film's
 * last slide stay to its end. Credits scroll as long as their slide is seen. Words for which
 * nobody chose a place keep off the heads of the picture, given in pixels of the frame.
 */
export function planWords(
  slide: Pick<Slide, "caption" | "words">,
  style: Pick<Style, "letters" | "captions">,
  { size, heads }: { readonly size: Size; readonly heads: readonly Rectangle[] },
  times: SlideTimes,
  beats: Grid["beats"],
  rate: FrameRate,
): SlotWords {
  const sheet = wordsAsked(slide, style).map(({ words, isPlaced }) =>
    isPlaced ? words : { ...words, place: placeOffFaces(words, size, heads) },
  );
  if (sheet.length === 0) return NO_WORDS;
  const neededSeconds = sheet.reduce((sum, { text }) => sum + secondsToRead(text), 0);
  const faded = fadedTime(style.letters.fade, times, beats, rate);
  const time = faded && readableFrames(faded) >= neededSeconds * framesPerSecond(rate) ? faded : wholeTime(times.seen);
  return {
    sheet,
    times: sheet.map((words) =>
      words.kind === "credits"
        ? { ...wholeTime(times.seen), isScrolling: true }
        : withEntrance(words, time, neededSeconds, beats, rate),
    ),
  };
}

interface AskedWords {
  readonly words: PlannedWords;
  /** A person chose the place. */
  readonly isPlaced: boolean;
}

/** The words that are seen on a slide of a style. The caption first: the others give way to it. */
export function wordsAsked(
  { caption, words }: Pick<Slide, "caption" | "words">,
  { letters, captions }: Pick<Style, "letters" | "captions">,
): AskedWords[] {
  const asked: AskedWords[] = [];
  if (captions.shown && caption.trim() !== "") {
    const { place, size } = captions;
    asked.push({ words: designWords({ kind: "caption", text: caption, place, size }, letters), isPlaced: true });
  }
  for (const { place, ...block } of words)
    if (block.text.trim() !== "")
      asked.push({
        words: designWords({ ...block, place: place ?? DEFAULT_PLACES[block.kind] }, letters),
        isPlaced: place !== null,
      });
  return asked;
}

const wholeTime = ({ startFrame, endFrame }: FrameSpan): WordTime => ({
  startFrame,
  endFrame,
  fadeInFrames: 0,
  fadeOutFrames: 0,
  isScrolling: false,
  entrance: null,
});

/** How long words can be read: while they fade, half of the time. */
const readableFrames = ({ startFrame, endFrame, fadeInFrames, fadeOutFrames }: WordTime): Frames =>
  endFrame - startFrame - (fadeInFrames + fadeOutFrames) / 2;

/** Null where there is no fade. */
function fadedTime(
  fade: Style["letters"]["fade"],
  { standing, seen, isLast }: SlideTimes,
  beats: Grid["beats"],
  rate: FrameRate,
): WordTime | null {
  if (!fade) return null;
  const fps = framesPerSecond(rate);
  const wait = LONGEST_WAIT * (standing.endFrame - standing.startFrame);
  const first = beatFrame(beats, rate, standing.startFrame, standing.startFrame + wait, "first");
  const last = isLast ? null : beatFrame(beats, rate, standing.endFrame - wait, standing.endFrame, "last");
  const startFrame = first ?? standing.startFrame;
  const endFrame = isLast ? seen.endFrame : (last ?? standing.endFrame);
  const longest = LONGEST_FADE * (endFrame - startFrame);
  const framesAt = (frame: Frames): number =>
    Math.round(Math.min(longest, lengthInSeconds(fade, frame / fps, beats) * fps));
  return {
    startFrame,
    endFrame,
    fadeInFrames: framesAt(startFrame),
    fadeOutFrames: isLast ? 0 : framesAt(endFrame - 1),
    isScrolling: false,
    entrance: null,
  };
}

import {
  drawnStyles,
  type PictureSlot,
  type PlannedTransition,
  placeTransitions,
  type Rectangle,
  type Size,
  withoutFlicker,
} from "../picture/index.ts";
import { itemAt, lastOf } from "../presence/index.ts";
import { type ShowDocument, styleOf } from "../show/index.ts";
import { type Frames, framesPerSecond } from "../time/index.ts";
import type { FilmFacts } from "./film-facts.ts";
import { Framer } from "./framer.ts";
import { type LaidSlide, lotName, type MusicalMoments, type SlideTimes } from "./laid-slide.ts";
import { lengthInSeconds } from "./length-in-seconds.ts";
import { planWords } from "./plan-words.ts";

export interface PlannedPicture extends PictureSlot {
  /** As it is drawn, after all turning. */
  readonly pictureSize: Size;
  /** The whole heads of its pictures, each at both ends of its move, in pixels of the frame. */
  readonly heads: readonly Rectangle[];
  /**
   * The transition into it is shorter than asked, so that three pictures are never seen at once.
   */
  readonly isTransitionShortened: boolean;
  /** A light flash was asked for, and would have been the fourth within a second. */
  readonly isFlashRefused: boolean;
}

/**
 * Framing, move and transition of every slide in its place, from its style and what was found in
 * its picture. What is drawn at random follows from the show's seed and the slide's id, so it stays
 * when other slides come and go. Throws `missing-picture`.
 */
export function planPictures(
  show: ShowDocument,
  laid: readonly LaidSlide[],
  facts: Pick<FilmFacts, "seen">,
  moments: MusicalMoments,
): PlannedPicture[] {
  const rate = show.frameRate;
  const styles = laid.map(({ slide }) => styleOf(show, slide));
  const drawn = withoutFlicker(
    drawnStyles(
      laid.slice(1).map((one, i) => ({ wish: itemAt(styles, i + 1).transition, name: lotName(one) })),
      show.seed,
    ),
    laid.slice(1).map(({ startFrame }) => startFrame / framesPerSecond(rate)),
  );
  const requests = laid.slice(1).map(({ landingSeconds }, i) => {
    const wish = itemAt(styles, i + 1).transition;
    return {
      style: itemAt(drawn, i).style,
      seconds: wish.kind === "cut" ? 0 : lengthInSeconds(wish.length, landingSeconds ?? 0, moments.grid.beats),
    };
  });
  const starts = [...laid.map(({ startFrame }) => startFrame), lastOf(laid).endFrame];
  const transitions: PlannedTransition[] = [
    { kind: "cut", startFrame: 0, endFrame: 0 },
    ...placeTransitions(starts, requests, rate, show.transitionLanding.point),
  ];
  const framer = new Framer(show, facts, laid);
  return laid.map((one, i) => {
    const { slide, startFrame, endFrame } = one;
    const transitionIn = itemAt(transitions, i);
    const next = transitions[i + 1];
    const times: SlideTimes = {
      // A picture is seen from where it comes in to where the next one has replaced it.
      seen: {
        startFrame: Math.min(transitionIn.startFrame, startFrame),
        endFrame: Math.max(next?.endFrame ?? endFrame, endFrame),
      },
      standing: {
        startFrame: i === 0 ? 0 : Math.max(startFrame, transitionIn.endFrame),
        endFrame: Math.min(endFrame, next?.startFrame ?? endFrame),
      },
      isLast: !next,
    };
    const framed = framer.frame(i, itemAt(styles, i), times, moments);
    const words = planWords(
      slide,
      itemAt(styles, i),
      { size: show.size, heads: framed.heads },
      times,
      moments.grid.beats,
      rate,
    );
    const clip = framer.clip(i, times, moments);
    const asked = requests[i - 1];
    const askedFrames = asked && asked.style.kind !== "cut" ? longestOdd(asked.seconds * framesPerSecond(rate)) : 0;
    const isTransitionShortened = transitionIn.endFrame - transitionIn.startFrame < askedFrames;
    const isFlashRefused = drawn[i - 1]?.isFlashRefused ?? false;
    return { ...framed, words, clip, startFrame, endFrame, transitionIn, isTransitionShortened, isFlashRefused };
  });
}

/**
 * Transitions have an odd number of frames, so that one is their middle; fewer than three are a
 * cut.
 */
function longestOdd(frames: Frames): number {
  const odd = 2 * Math.floor((frames - 1) / 2) + 1;
  return odd >= 3 ? odd : 0;
}

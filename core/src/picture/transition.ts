import { itemAt } from "../presence/index.ts";
import {
  type DrawnTransition,
  PUSH_DIRECTIONS,
  type TransitionLanding,
  type TransitionWish,
  TURN_DIRECTIONS,
  WIPE_DIRECTIONS,
} from "../show/index.ts";
import { type FrameRate, type Frames, framesPerSecond, type Seconds } from "../time/index.ts";
import type { FilmLength } from "../values/index.ts";
import { seededChoice } from "./seeded-choice.ts";

/**
 * The frames in which two pictures are seen at once, endFrame exclusive; a cut has none and both
 * are the landing.
 */
export type PlannedTransition = { readonly startFrame: Frames; readonly endFrame: Frames } & TransitionStyle;

/** What a transition looks like, without its length. */
export type TransitionStyle = { readonly kind: "cut" } | WithoutLength<DrawnTransition>;
type WithoutLength<T> = T extends unknown ? Readonly<Omit<T, "length">> : never;

/** What is asked for at one landing, with its length in seconds of the film. */
export interface TransitionRequest {
  readonly style: TransitionStyle;
  readonly seconds: Seconds;
}

const SOFT_WIPE = 0.12;
const DARK = "#000000";

/** What one of the kinds looks like where nobody chose more than the kind: directions at random. */
function defaultStyle(kind: DrawnTransition["kind"], seed: number, name: string): TransitionStyle {
  const oneOf = <T>(list: readonly T[]): T => itemAt(list, seededChoice(seed, `${name} direction`, list.length));
  switch (kind) {
    case "wipe":
      return { kind, direction: oneOf(WIPE_DIRECTIONS), softness: SOFT_WIPE };
    case "gradient":
      return { kind, direction: oneOf(WIPE_DIRECTIONS) };
    case "push":
      return { kind, direction: oneOf(PUSH_DIRECTIONS) };
    case "page-turn":
      return { kind, direction: oneOf(TURN_DIRECTIONS) };
    case "dip":
      return { kind, colour: DARK };
    case "dissolve":
    case "iris":
    case "zoom":
    case "light-flash":
      return { kind };
  }
}

/** A kind of transition as it is offered first. */
export function newTransition(kind: TransitionWish["kind"], length: FilmLength): TransitionWish {
  switch (kind) {
    case "cut":
      return { kind };
    case "vary":
      return { kind, length, kinds: ["dissolve", "wipe", "gradient", "push"] };
    case "wipe":
      return { kind, length, direction: "right", softness: SOFT_WIPE };
    case "gradient":
      return { kind, length, direction: "right" };
    case "push":
      return { kind, length, direction: "left" };
    case "page-turn":
      return { kind, length, direction: "left" };
    case "dip":
      return { kind, length, colour: DARK };
    case "dissolve":
    case "iris":
    case "zoom":
    case "light-flash":
      return { kind, length };
  }
}

/**
 * What is drawn for each of a film's wishes in order: a varied one draws a kind at random from its
 * set, by seed and name. It is not the kind before it again where the set has another.
 */
export function drawnStyles(
  wishes: readonly { readonly wish: TransitionWish; readonly name: string }[],
  seed: number,
): TransitionStyle[] {
  let before = "";
  return wishes.map(({ wish, name }) => {
    let style: TransitionStyle;
    if (wish.kind === "vary") {
      const others = wish.kinds.filter((kind) => kind !== before);
      const set = others.length > 0 ? others : wish.kinds;
      style = defaultStyle(itemAt(set, seededChoice(seed, `${name} transition`, set.length)), seed, name);
    } else {
      style = wish;
    }
    before = style.kind;
    return style;
  });
}

/** WCAG 2.2, success criterion 2.3.1: nothing flashes more than three times in any one second. */
export const MOST_FLASHES_A_SECOND = 3;

/**
 * Light flashes as they may be shown: one that would be the fourth within a second is a dissolve
 * instead. `landingSeconds[i]` is where `styles[i]` is brightest, rising.
 */
export function withoutFlicker(
  styles: readonly TransitionStyle[],
  landingSeconds: readonly Seconds[],
): { readonly style: TransitionStyle; readonly isFlashRefused: boolean }[] {
  const flashes: number[] = [];
  return styles.map((style, i) => {
    const at = itemAt(landingSeconds, i);
    if (style.kind !== "light-flash") return { style, isFlashRefused: false };
    const third = flashes.at(-MOST_FLASHES_A_SECOND);
    if (third !== undefined && at - third < 1) return { style: { kind: "dissolve" }, isFlashRefused: true };
    flashes.push(at);
    return { style, isFlashRefused: false };
  });
}

/**
 * Places the transition into each slot but the first: an odd number of frames whose middle one
 * shows exactly half of each picture. The slot's first frame is that middle one, the transition's
 * first frame, or the first one after it (`point`). It is shortened until neighbouring transitions
 * at most touch, so that three pictures are never seen at once. Where there is no room for three
 * frames it becomes a cut. `starts` are the first frames of all slots in order, and the end of the
 * film behind them; `requests[i]` leads into slot i + 1.
 */
export function placeTransitions(
  starts: readonly number[],
  requests: readonly TransitionRequest[],
  rate: FrameRate,
  point: TransitionLanding["point"] = "middle",
): PlannedTransition[] {
  return starts.slice(1, -1).map((landing, i) => {
    const { style, seconds } = itemAt(requests, i);
    const half = style.kind === "cut" ? 0 : Math.floor((seconds * framesPerSecond(rate) - 1) / 2);
    const slotBefore = landing - itemAt(starts, i);
    const slotAfter = itemAt(starts, i + 2) - landing;
    const free = { start: slotAfter, middle: Math.min(slotBefore, slotAfter), end: slotBefore }[point];
    const side = Math.min(half, Math.floor((free - 1) / 2));
    if (side < 1) return { kind: "cut", startFrame: landing, endFrame: landing };
    const length = 2 * side + 1;
    const startFrame = landing - { start: 0, middle: side, end: length }[point];
    return { ...style, startFrame, endFrame: startFrame + length };
  });
}

type PlacedFrames = Pick<PlannedTransition, "startFrame" | "endFrame">;

/** The frame that shows half of each picture; of a cut, the new picture's first. */
export const halfwayFrame = ({ startFrame, endFrame }: PlacedFrames): Frames =>
  endFrame === startFrame ? startFrame : (startFrame + endFrame - 1) / 2;

/**
 * Share of the new picture in a frame of a transition, strictly between 0 and 1, rising evenly;
 * exactly 0.5 in the middle frame. In a dissolve two equal greys stay that grey; from black to
 * white the middle frame has the code value 128 of 255 in the drawn picture.
 */
export function transitionShare(transition: PlacedFrames, frame: Frames): number {
  return (frame - transition.startFrame + 1) / (transition.endFrame - transition.startFrame + 1);
}

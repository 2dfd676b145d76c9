import type { Fill } from "../show/index.ts";
import { framePicture, type Rectangle, type Size } from "./framing.ts";
import { dissolveShare, type PlannedTransition } from "./transition.ts";

/** What planFrame needs of a film: slots in order, tiling the film from frame 0. */
export interface PictureTrack {
  readonly size: Size;
  readonly slots: readonly PictureSlot[];
  readonly fill: Fill;
  /** The picture sinks to black from here to the end of the film; null for a film that stays. */
  readonly fadeOut: { readonly startFrame: number; readonly endFrame: number } | null;
}

export interface PictureSlot {
  /** Name of the picture as it is drawn: `drawnPicture`. */
  readonly picture: string;
  readonly pictureSize: Size;
  readonly startFrame: number;
  /** Exclusive. */
  readonly endFrame: number;
  readonly transitionIn: PlannedTransition;
}

/** One picture drawn over the frame: plain data that a test can read. */
export interface Layer {
  /** As in its slot. */
  readonly picture: string;
  readonly alpha: number;
  /** What is drawn under a picture that does not cover the frame; null where it does. */
  readonly ground: { readonly kind: "blur" } | { readonly kind: "colour"; readonly colour: string } | null;
  readonly source: Rectangle;
  readonly target: Rectangle;
}

export interface FramePlan {
  readonly size: Size;
  /** One or two, the new picture last. */
  readonly layers: readonly Layer[];
  /** Black over everything, 0 to 1. */
  readonly darkness: number;
}

/** What is seen in a frame, 0 to the film's last; frames outside are drawn to the ends. O(log slots). */
export function planFrame(track: PictureTrack, frame: number): FramePlan {
  const { slots, fadeOut } = track;
  const index = slotIndexAt(slots, frame);
  const current = slots[index]!;
  const next = slots[index + 1];
  const layers: Layer[] = [];
  if (next && frame >= next.transitionIn.startFrame) {
    layers.push(layer(track, current, 1), layer(track, next, dissolveShare(next.transitionIn, frame)));
  } else if (index > 0 && frame < current.transitionIn.endFrame) {
    layers.push(layer(track, slots[index - 1]!, 1), layer(track, current, dissolveShare(current.transitionIn, frame)));
  } else {
    layers.push(layer(track, current, 1));
  }
  const darkness =
    fadeOut && frame >= fadeOut.startFrame
      ? Math.min(1, (frame - fadeOut.startFrame + 1) / (fadeOut.endFrame - fadeOut.startFrame))
      : 0;
  return { size: track.size, layers, darkness };
}

/** The slot that holds a frame; the first before the film and the last after it. */
export function slotIndexAt(slots: readonly { readonly startFrame: number }[], frame: number): number {
  let low = 0;
  let high = slots.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (slots[middle]!.startFrame <= frame) low = middle + 1;
    else high = middle;
  }
  return Math.max(0, low - 1);
}

function layer(track: PictureTrack, slot: PictureSlot, alpha: number): Layer {
  const { covers, source, target } = framePicture(slot.pictureSize, track.size);
  return { picture: slot.picture, alpha, ground: covers ? null : track.fill, source, target };
}

/** The pictures that a stretch of the film needs, each once, in order of appearance. */
export function picturesBetween(track: PictureTrack, fromFrame: number, toFrame: number): string[] {
  const first = slotIndexAt(track.slots, fromFrame);
  const last = slotIndexAt(track.slots, toFrame);
  return [...new Set(track.slots.slice(Math.max(0, first - 1), last + 2).map((slot) => slot.picture))];
}

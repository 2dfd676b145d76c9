import type { Point } from "../show/index.ts";
import { type ClipInstant, clipAt, type PlannedClip } from "./clip.ts";
import { AS_IT_IS, type FramePlan, type Ground, type SceneLayer, type ScenePart } from "./frame-plan.ts";
import { clamp, coversFrame, type Size } from "./geometry.ts";
import { isMoving, type PlannedMove, placedAt } from "./moves.ts";
import { planTransition } from "./plan-transition.ts";
import type { WordSheet } from "./planned-words.ts";
import { type PlannedTransition, transitionShare } from "./transition.ts";
import { scrolledShare, type WordTime, wordAlpha, wordsChange } from "./word-time.ts";

/** What planFrame needs of a film: slots in order, tiling the film from frame 0. */
export interface PictureTrack {
  readonly size: Size;
  readonly slots: readonly PictureSlot[];
  /** The picture sinks to black from here to the end of the film; null for a film that stays. */
  readonly fadeOut: { readonly startFrame: number; readonly endFrame: number } | null;
}

export interface PictureSlot {
  /** Name of the picture as it is drawn: `drawnPicture`; null for a card. */
  readonly picture: string | null;
  /** Null for a picture. */
  readonly clip: PlannedClip | null;
  readonly startFrame: number;
  /** Exclusive. */
  readonly endFrame: number;
  readonly transitionIn: PlannedTransition;
  readonly move: PlannedMove;
  /** What stands beside the picture while it does not cover the frame, or behind the words of a card; null where the picture always covers. */
  readonly ground: Ground | null;
  readonly words: SlotWords;
  /** What must stay in view, in shares of the picture. */
  readonly subject: Point;
}

/** The words of a slot: laid out together, each with its own time. */
export interface SlotWords {
  readonly sheet: WordSheet;
  /** One entry for each of the sheet's. */
  readonly times: readonly WordTime[];
}

export const NO_WORDS: SlotWords = { sheet: [], times: [] };

/** What is seen in a frame, 0 to the film's last; frames outside are drawn to the ends. O(log slots). */
export function planFrame(track: PictureTrack, frame: number): FramePlan {
  const { slots, fadeOut, size } = track;
  const index = slotIndexAt(slots, frame);
  const current = slots[index]!;
  const next = slots[index + 1];
  const passing =
    next && frame >= next.transitionIn.startFrame
      ? index
      : index > 0 && frame < current.transitionIn.endFrame
        ? index - 1
        : null;
  const veils =
    fadeOut && frame >= fadeOut.startFrame
      ? [
          {
            colour: "#000000",
            alpha: Math.min(1, (frame - fadeOut.startFrame + 1) / (fadeOut.endFrame - fadeOut.startFrame)),
          },
        ]
      : [];
  if (passing === null) return { size, layers: [layer(track, index, frame)], veils };
  const after = slots[passing + 1]!;
  const afterLayer = layer(track, passing + 1, frame);
  const afterTarget = placedAt(after.move, frame);
  const drawn = planTransition(after.transitionIn, {
    size,
    before: layer(track, passing, frame),
    after: afterLayer,
    share: transitionShare(after.transitionIn, frame),
    subject: {
      x: clamp(afterTarget.x + after.subject.x * afterTarget.width, 0, size.width),
      y: clamp(afterTarget.y + after.subject.y * afterTarget.height, 0, size.height),
    },
  });
  return { size, layers: drawn.layers, veils: [...drawn.veils, ...veils] };
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

function layer({ size, slots }: PictureTrack, slotIndex: number, frame: number): SceneLayer {
  const slot = slots[slotIndex]!;
  const target = placedAt(slot.move, frame);
  const parts: ScenePart[] = [];
  if (slot.picture !== null) {
    const clip = slot.clip && clipAt(slot.clip, slotIndex, frame);
    parts.push({ kind: "picture", picture: slot.picture, clip, target });
  }
  const { sheet, times } = slot.words;
  for (const [index, time] of times.entries()) {
    const alpha = wordAlpha(time, frame);
    if (alpha > 0)
      parts.push({ kind: "words", sheet, index, alpha, scrolled: scrolledShare(time, frame), placement: AS_IT_IS });
  }
  return {
    kind: "scene",
    ground: slot.picture !== null && coversFrame(target, size) ? null : slot.ground,
    parts,
    alpha: 1,
    bounds: null,
    mask: null,
  };
}

/** The pictures that a stretch of the film needs, each once, in order of appearance. */
export function picturesBetween(track: PictureTrack, fromFrame: number, toFrame: number): string[] {
  const first = slotIndexAt(track.slots, fromFrame);
  const last = slotIndexAt(track.slots, toFrame);
  const slots = track.slots.slice(Math.max(0, first - 1), last + 2);
  return [
    ...new Set(
      slots.flatMap(({ picture, ground }) => [
        ...(picture === null ? [] : [picture]),
        ...(ground?.kind === "image" ? [ground.picture] : []),
      ]),
    ),
  ];
}

/** The clips that a planned frame shows, and what of them. */
export function clipsIn(plan: FramePlan): { readonly picture: string; readonly clip: ClipInstant }[] {
  return plan.layers.flatMap((layer) =>
    layer.kind !== "scene"
      ? []
      : layer.parts.flatMap((part) =>
          part.kind === "picture" && part.clip ? [{ picture: part.picture, clip: part.clip }] : [],
        ),
  );
}

/** The images that a planned frame shows, each as it is drawn. */
export function imagesIn(plan: FramePlan): string[] {
  const named = plan.layers.flatMap((layer) =>
    layer.kind !== "scene"
      ? []
      : [
          ...(layer.ground?.kind === "image" ? [layer.ground.picture] : []),
          ...layer.parts.flatMap((part) => (part.kind === "picture" ? [part.picture] : [])),
        ],
  );
  return [...new Set(named)];
}

/** Whether a frame is sure to look as the one before it: the same picture, and nothing moves or changes from one to the other. */
export function repeatsFrame(track: PictureTrack, frame: number): boolean {
  const { slots, fadeOut } = track;
  const index = slotIndexAt(slots, frame);
  const { startFrame, transitionIn, move, clip, words } = slots[index]!;
  const next = slots[index + 1];
  if (frame - 1 < Math.max(startFrame, transitionIn.endFrame)) return false;
  if (next && frame >= next.transitionIn.startFrame) return false;
  if (clip || (fadeOut && frame >= fadeOut.startFrame)) return false;
  if (words.times.some((time) => wordsChange(time, frame))) return false;
  return !isMoving(move) || frame <= move.startFrame || frame > move.endFrame;
}

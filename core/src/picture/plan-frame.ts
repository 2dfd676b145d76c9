import { firstIndex } from "../numeric/index.ts";
import { itemAt, present } from "../presence/index.ts";
import type { Look } from "../show/index.ts";
import type { Frames } from "../time/index.ts";
import type { Point } from "../values/index.ts";
import { type ClipInstant, clipAt, type PlannedClip } from "./clip.ts";
import { entranceAt } from "./entrance.ts";
import { AS_IT_IS, type FramePlan, type Ground, type SceneLayer, type ScenePart } from "./frame-plan.ts";
import { clamp, coversFrame, type Rectangle, type Size, sharedPart } from "./geometry.ts";
import { isMoving, type PlannedMove, placedAt } from "./moves.ts";
import { overlayPart, type PlannedOverlay } from "./overlays.ts";
import { planTransition } from "./plan-transition.ts";
import type { WordSheet } from "./planned-words.ts";
import { type ImageName, imageKey } from "./surface.ts";
import { type PlannedTransition, transitionShare } from "./transition.ts";
import { scrolledShare, type WordTime, wordAlpha, wordsChange } from "./word-time.ts";

/** What planFrame needs of a film: slots in order, tiling the film from frame 0. */
export interface PictureTrack {
  readonly size: Size;
  readonly slots: readonly PictureSlot[];
  /** The picture sinks to black from here to the end of the film; null for a film that stays. */
  readonly fadeOut: { readonly startFrame: Frames; readonly endFrame: Frames } | null;
  /** Words over all of the film; null for none. */
  readonly watermark: { readonly sheet: WordSheet; readonly alpha: number } | null;
  /**
   * What the film dissolves into at its end, to begin again with it; null for a film that ends. Its
   * slot begins where the film ends.
   */
  readonly loopBack: PictureSlot | null;
}

export interface PictureSlot {
  /** Name of the picture as it is drawn: `drawnPicture`; null for a card. */
  readonly picture: string | null;
  /** Of all its pictures; null: as they were taken. */
  readonly look: Look | null;
  /** Where alone the picture is seen; null: in all of the frame. */
  readonly cell: Rectangle | null;
  /** Pictures beside it. */
  readonly beside: readonly BesidePicture[];
  /** A line along the edge of every picture, in pixels. */
  readonly border: { readonly colour: string; readonly width: number } | null;
  readonly overlay: PlannedOverlay | null;
  readonly graphic: { readonly picture: string; readonly target: Rectangle; readonly opacity: number } | null;
  /** Null for a picture. */
  readonly clip: PlannedClip | null;
  readonly startFrame: Frames;
  /** Exclusive. */
  readonly endFrame: Frames;
  readonly transitionIn: PlannedTransition;
  readonly move: PlannedMove;
  /**
   * What stands beside the picture while it does not cover the frame, or behind the words of a
   * card; null where the picture always covers.
   */
  readonly ground: Ground | null;
  readonly words: SlotWords;
  /** What must stay in view, in shares of the picture. */
  readonly subject: Point;
}

/** A picture that stands on a slide beside the slide's own. */
export interface BesidePicture {
  /** Name as it is drawn. */
  readonly picture: string;
  readonly cell: Rectangle;
  readonly move: PlannedMove;
  /** What must stay in view, in shares of the picture. */
  readonly subject: Point;
  /** It lies over the slide's own picture, and throws a shadow on it. */
  readonly isOver: boolean;
  /**
   * It is not seen before the first frame, and wholly from the end on; null: it is there from the
   * beginning.
   */
  readonly enters: { readonly startFrame: Frames; readonly endFrame: Frames } | null;
}

/** The part of the frame that a slot's own picture is framed for. */
export const areaOf = ({ cell }: Pick<PictureSlot, "cell">, size: Size): Rectangle => cell ?? { x: 0, y: 0, ...size };

/** The words of a slot: laid out together, each with its own time. */
export interface SlotWords {
  readonly sheet: WordSheet;
  /** One entry for each of the sheet's. */
  readonly times: readonly WordTime[];
}

export const NO_WORDS: SlotWords = { sheet: [], times: [] };

/**
 * What is seen in a frame, 0 to the film's last; frames outside are drawn to the ends. O(log
 * slots).
 */
export function planFrame(track: PictureTrack, frame: Frames): FramePlan {
  const { slots, fadeOut, size } = track;
  const index = slotIndexAt(slots, frame);
  const current = itemAt(slots, index);
  const next = slots[index + 1] ?? track.loopBack;
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
  const mark = watermarkLayers(track);
  if (passing === null) return { size, layers: [layer(track, index, frame), ...mark], veils };
  const after = slots[passing + 1] ?? present(track.loopBack);
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
  return { size, layers: [...drawn.layers, ...mark], veils: [...drawn.veils, ...veils] };
}

function watermarkLayers({ watermark }: PictureTrack): SceneLayer[] {
  if (!watermark) return [];
  const { sheet, alpha } = watermark;
  const parts = sheet.map(
    (_, index): ScenePart => ({
      kind: "words",
      sheet,
      index,
      alpha,
      scrolled: null,
      entrance: null,
      placement: AS_IT_IS,
    }),
  );
  return [{ kind: "scene", ground: null, parts, alpha: 1, bounds: null, mask: null }];
}

/** The slot that holds a frame; the first before the film and the last after it. */
export function slotIndexAt(slots: readonly { readonly startFrame: Frames }[], frame: Frames): number {
  return Math.max(0, firstIndex(slots.length, (index) => itemAt(slots, index).startFrame > frame) - 1);
}

function layer({ size, slots, loopBack }: PictureTrack, slotIndex: number, frame: Frames): SceneLayer {
  const slot = slots[slotIndex] ?? present(loopBack);
  const target = placedAt(slot.move, frame);
  const parts: ScenePart[] = [];
  if (slot.picture !== null) {
    const clip = slot.clip && clipAt(slot.clip, slotIndex, frame);
    parts.push(...pictureParts(slot, slot.picture, clip, target, slot.cell, 1, size));
  }
  for (const { picture, move, cell, isOver, enters } of slot.beside) {
    const alpha = enters ? clamp((frame - enters.startFrame + 1) / (enters.endFrame - enters.startFrame + 1), 0, 1) : 1;
    if (alpha > 0 && isOver) parts.push(...softShadow(cell, alpha, size));
    if (alpha > 0) parts.push(...pictureParts(slot, picture, null, placedAt(move, frame), cell, alpha, size));
  }
  if (slot.overlay) parts.push(overlayPart(slot.overlay, frame, size));
  if (slot.graphic) {
    const { picture, target: place, opacity } = slot.graphic;
    const image = { picture, of: "graphic", look: null } as const;
    parts.push({ kind: "picture", image, clip: null, target: place, cell: null, alpha: opacity });
  }
  const { sheet, times } = slot.words;
  for (const [index, time] of times.entries()) {
    const alpha = wordAlpha(time, frame);
    if (alpha > 0)
      parts.push({
        ...{ kind: "words", sheet, index, alpha },
        scrolled: scrolledShare(time, frame),
        entrance: entranceAt(time.entrance, frame),
        placement: AS_IT_IS,
      });
  }
  return {
    kind: "scene",
    ground: slot.picture !== null && !slot.cell && coversFrame(target, size) ? null : slot.ground,
    parts,
    alpha: 1,
    bounds: null,
    mask: null,
  };
}

/** A picture, and the line along its edge. */
function pictureParts(
  { look, border }: PictureSlot,
  picture: string,
  clip: ClipInstant | null,
  target: Rectangle,
  cell: Rectangle | null,
  alpha: number,
  size: Size,
): ScenePart[] {
  const part: ScenePart = { kind: "picture", image: { picture, of: "picture", look }, clip, target, cell, alpha };
  const frame = { x: 0, y: 0, ...size };
  if (border) return [part, { kind: "lines", rectangle: sharedPart(target, cell ?? frame), ...border, alpha }];
  return cell || coversFrame(target, size) ? [part] : [...softShadow(sharedPart(target, frame), alpha, size), part];
}

/** As a share of the frame's shorter side. */
const SHADOW_WIDTH = 0.03;
const SHADOW_LINES = 10;
const DARKEST = 0.3;

/** Lines around a picture, ever fainter: it stands off from what fills the frame beside it. */
function softShadow({ x, y, width, height }: Rectangle, alpha: number, size: Size): ScenePart[] {
  const line = Math.max(1, Math.round((SHADOW_WIDTH * Math.min(size.width, size.height)) / SHADOW_LINES));
  return Array.from({ length: SHADOW_LINES }, (_, i): ScenePart => {
    const by = (i + 1) * line;
    return {
      kind: "lines",
      rectangle: { x: x - by, y: y - by, width: width + 2 * by, height: height + 2 * by },
      width: line,
      colour: "#000000",
      alpha: alpha * DARKEST * (1 - i / SHADOW_LINES) ** 2,
    };
  });
}

/** The images that a stretch of the film needs, each once, in order of appearance. */
export function imagesBetween(track: PictureTrack, fromFrame: Frames, toFrame: Frames): ImageName[] {
  const first = slotIndexAt(track.slots, fromFrame);
  const last = slotIndexAt(track.slots, toFrame);
  const isLast = last + 2 > track.slots.length;
  const slots = [
    ...track.slots.slice(Math.max(0, first - 1), last + 2),
    ...(isLast && track.loopBack ? [track.loopBack] : []),
  ];
  return eachOnce(
    slots.flatMap(({ picture, beside, look, ground, graphic }) => [
      ...(picture === null ? [] : [{ picture, of: "picture", look } as const]),
      ...(ground?.kind === "image" ? [ground.image] : []),
      ...beside.map((other) => ({ picture: other.picture, of: "picture", look }) as const),
      ...(graphic ? [{ picture: graphic.picture, of: "graphic", look: null } as const] : []),
    ]),
  );
}

const eachOnce = (images: readonly ImageName[]): ImageName[] => [
  ...new Map(images.map((image) => [imageKey(image), image])).values(),
];

/** The clips that a planned frame shows, and what of them. */
export function clipsIn(plan: FramePlan): { readonly image: ImageName; readonly clip: ClipInstant }[] {
  return plan.layers.flatMap((layer) =>
    layer.kind !== "scene"
      ? []
      : layer.parts.flatMap((part) =>
          part.kind === "picture" && part.clip ? [{ image: part.image, clip: part.clip }] : [],
        ),
  );
}

/** The images that a planned frame shows, each as it is drawn. */
export function imagesIn(plan: FramePlan): ImageName[] {
  const named = plan.layers.flatMap((layer) =>
    layer.kind !== "scene"
      ? []
      : [
          ...(layer.ground?.kind === "image" ? [layer.ground.image] : []),
          ...layer.parts.flatMap((part) => (part.kind === "picture" ? [part.image] : [])),
        ],
  );
  return eachOnce(named);
}

/**
 * Whether a frame is sure to look as the one before it: the same picture, and nothing moves or
 * changes from one to the other.
 */
export function repeatsFrame(track: PictureTrack, frame: Frames): boolean {
  const { slots, fadeOut } = track;
  const index = slotIndexAt(slots, frame);
  const { startFrame, transitionIn, move, clip, words, beside, overlay } = itemAt(slots, index);
  const next = slots[index + 1] ?? track.loopBack;
  if (frame - 1 < Math.max(startFrame, transitionIn.endFrame)) return false;
  if (next && frame >= next.transitionIn.startFrame) return false;
  if (clip || overlay || (fadeOut && frame >= fadeOut.startFrame)) return false;
  if (words.times.some((time) => wordsChange(time, frame))) return false;
  const stands = (own: PlannedMove): boolean => !isMoving(own) || frame <= own.startFrame || frame > own.endFrame;
  return (
    stands(move) &&
    beside.every(
      ({ move: own, enters }) => stands(own) && (!enters || frame < enters.startFrame || frame > enters.endFrame),
    )
  );
}

import type { FilmPlan } from "../film/index.ts";
import { placedPicture, shapeOf, slotIndexAt, viewIn } from "../picture/index.ts";
import { itemAt } from "../presence/index.ts";
import { framesPerSecond } from "../time/index.ts";
import type { Bars } from "./bars.ts";
import { placeOfSlot } from "./check-slides.ts";
import type { Finding } from "./finding.ts";
import { type FlashStretch, MOST_FLASHES } from "./flash-watch.ts";

/** A dissolve this long is no flash. */
const CALM_SECONDS = 0.5;

/** What was seen in drawn frames: stretches that flash too often. */
export function checkFlashes(plan: FilmPlan, stretches: readonly FlashStretch[]): Finding[] {
  const fps = framesPerSecond(plan.rate);
  return stretches.map(({ kind, startFrame, endFrame, share }) => {
    const first = slotIndexAt(plan.slots, startFrame);
    const last = slotIndexAt(plan.slots, endFrame - 1);
    const slots = plan.slots.slice(first, last + 1);
    const slot = itemAt(slots, 0);
    const clip = slots.find((one) => one.clip);
    const changing = slots.slice(slots.length > 1 ? 1 : 0).map(({ slideId }) => slideId);
    const calm: Finding["fixes"] =
      slots.length > 1 ? [{ kind: "dissolve", slideIds: [...new Set(changing)], seconds: CALM_SECONDS }] : [];
    return {
      kind: "flashes",
      severity: "error",
      place: { ...placeOfSlot(plan, slot), seconds: startFrame / fps },
      values: {
        fromSeconds: startFrame / fps,
        toSeconds: endFrame / fps,
        isRed: kind === "red",
        share,
        mostInASecond: MOST_FLASHES,
        clip: clip?.name ?? null,
      },
      fixes: [...calm, { kind: "leaveOut", slideId: (clip ?? slot).slideId }],
    };
  });
}

/** Slots whose drawn picture has black bars of its own, by slot index. */
export function checkBars(plan: FilmPlan, bars: ReadonlyMap<number, Bars>): Finding[] {
  return [...bars].map(([index, { edges, share }]) => {
    const slot = itemAt(plan.slots, index);
    const { size } = plan;
    const view = viewIn(slot.move.start, slot.pictureSize, { x: 0, y: 0, ...size });
    // So much larger that what lies between the bars fills the frame.
    const zoom = Math.min(8, Math.ceil((view.zoom / (1 - 2 * share)) * 100 + 1) / 100);
    const placed = placedPicture({ centre: view.centre, zoom }, slot.pictureSize, size);
    return {
      kind: "bars",
      severity: "warning",
      place: placeOfSlot(plan, slot),
      values: { slide: slot.name, edges, share },
      fixes:
        placed.width >= size.width && placed.height >= size.height
          ? [{ kind: "view", slideId: slot.slideId, shape: shapeOf(size), view: { ...view, zoom } }]
          : [],
    };
  });
}

/**
 * Whether a slot's frame is looked at for bars: pictures by themselves, on no ground that a person
 * chose.
 */
export const mayHaveBars = (plan: FilmPlan, index: number): boolean => {
  const { picture, cell, beside, ground, round } = itemAt(plan.slots, index);
  return picture !== null && round === 0 && cell === null && beside.length === 0 && ground?.kind !== "colour";
};

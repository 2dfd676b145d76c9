import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { slotIndexAt } from "@humming-tide/core/picture";
import { itemAt } from "@humming-tide/core/presence";
import type { Slide } from "@humming-tide/core/show";
import { frameAt } from "@humming-tide/core/time";
import { useCallback, useState } from "react";
import { useFilmClock } from "../../stage/player-context.tsx";

/** The slot under the playhead; renders again only when it is another one. */
export function useSlotAtPlayhead(plan: FilmPlan): FilmSlot {
  const [index, setIndex] = useState(0);
  const look = useCallback(
    (filmSeconds: number) => setIndex(slotIndexAt(plan.slots, frameAt(filmSeconds, plan.rate))),
    [plan],
  );
  useFilmClock(look);
  return itemAt(plan.slots, Math.min(index, plan.slots.length - 1));
}

/** A frame in which a slot is seen alone, as near as can be to its middle. */
export function frameAlone(plan: FilmPlan, slot: FilmSlot): number {
  const next = plan.slots[slot.index + 1];
  const first = Math.max(slot.startFrame, slot.transitionIn.endFrame);
  const last = Math.min(slot.endFrame, next?.transitionIn.startFrame ?? slot.endFrame) - 1;
  return Math.max(slot.startFrame, Math.round((first + last) / 2));
}

/** Whether a slide says something of its look itself, instead of following passage and show. */
export const isDressedByHand = ({ style, views, subject, words }: Slide): boolean =>
  Object.values(style).some((part) => part !== null && !(Array.isArray(part) && part.length === 0)) ||
  views.length > 0 ||
  subject !== null ||
  words.length > 0;

/** A film in which one slot stands still where its move begins or ends, to be set by hand. */
export function heldAt(plan: FilmPlan, slotIndex: number, end: "start" | "end"): FilmPlan {
  return {
    ...plan,
    slots: plan.slots.map((slot) => {
      if (slot.index !== slotIndex) return slot;
      const held = slot.move[end];
      return { ...slot, move: { ...slot.move, start: held, end: held } };
    }),
  };
}

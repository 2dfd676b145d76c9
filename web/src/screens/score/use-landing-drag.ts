import { indexOfNearestBeat } from "@humming-tide/core/grid";
import { lockLanding } from "@humming-tide/core/show";
import { type PointerEvent as ReactPointerEvent, type RefObject, useCallback } from "react";
import { showActions } from "../../store/show-slice.ts";
import { store, useAppDispatch } from "../../store/store.ts";
import { type ScoreLayout, timeAt } from "./score-layout.ts";

export type StartDrag = (event: ReactPointerEvent<HTMLElement>, slotIndex: number) => void;

/**
 * Dragging the edge between two slides moves its landing from beat to beat; the free neighbours re-flow while it is dragged, and letting go
 * makes one undo step. Escape puts it back.
 */
export function useLandingDrag(rows: RefObject<HTMLDivElement | null>, layout: ScoreLayout | null): StartDrag {
  const dispatch = useAppDispatch();
  return useCallback(
    (event, slotIndex) => {
      const slot = store.getState().view.plan?.slots[slotIndex];
      const before = store.getState().show.document;
      if (!layout || !slot?.landing || slot.round > 0 || !before || event.button !== 0) return;
      event.preventDefault();
      const handle = event.currentTarget;
      handle.setPointerCapture(event.pointerId);
      let target = slot.landing.seconds;
      const move = (moved: PointerEvent): void => {
        const seconds = beatUnder(moved, rows.current, layout);
        if (seconds === null || seconds === target) return;
        target = seconds;
        dispatch(showActions.drafted(lockLanding(before, slot.slideId, target)));
      };
      const end = (keep: boolean): void => {
        handle.removeEventListener("pointermove", move);
        handle.removeEventListener("pointerup", up);
        handle.removeEventListener("pointercancel", cancel);
        window.removeEventListener("keydown", escape);
        if (keep && target !== slot.landing!.seconds)
          dispatch(showActions.edited(lockLanding(before, slot.slideId, target)));
        else dispatch(showActions.drafted(null));
      };
      const up = (): void => end(true);
      const cancel = (): void => end(false);
      const escape = (key: KeyboardEvent): void => {
        if (key.key === "Escape") end(false);
      };
      handle.addEventListener("pointermove", move);
      handle.addEventListener("pointerup", up);
      handle.addEventListener("pointercancel", cancel);
      window.addEventListener("keydown", escape);
    },
    [dispatch, layout, rows],
  );
}

/** Seconds of the real beat nearest to the pointer; null outside the rows. */
function beatUnder(event: PointerEvent, rows: HTMLDivElement | null, layout: ScoreLayout): number | null {
  if (!rows) return null;
  for (const element of rows.querySelectorAll<HTMLElement>("[data-row-track]")) {
    const box = element.getBoundingClientRect();
    if (event.clientY < box.top - 8 || event.clientY > box.bottom + 8) continue;
    const seconds = timeAt(layout, Number(element.dataset["rowTrack"]), (event.clientX - box.left) / box.width);
    const candidates = layout.beats.filter((beat) => !beat.imagined);
    const usable = candidates.length > 0 ? candidates : layout.beats;
    return usable[indexOfNearestBeat(usable, seconds)]!.seconds;
  }
  return null;
}

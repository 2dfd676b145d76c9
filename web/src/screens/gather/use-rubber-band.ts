import { present } from "@humming-tide/core/presence";
import { type PointerEvent as ReactPointerEvent, type RefObject, useRef, useState } from "react";
import { store } from "../../store/store.ts";
import type { Box } from "./sheet-layout.ts";

/** Scrolling at the edges while a band is drawn, in pixels a step. */
const EDGE = 40;
const SCROLL_STEP = 14;

/**
 * A rectangle drawn from an empty place of the sheet, in the sheet's own pixels. `onBand` hears it
 * with what was selected before, which stays where Ctrl or Shift is held. A click on an empty place
 * selects nothing.
 */
export function useRubberBand(
  sheet: RefObject<HTMLDivElement | null>,
  onBand: (box: Box, kept: readonly string[]) => void,
): { box: Box | null; start: (event: ReactPointerEvent) => void } {
  const [box, setBox] = useState<Box | null>(null);
  const latest = useRef(onBand);
  latest.current = onBand;

  const start = (event: ReactPointerEvent): void => {
    const element = sheet.current;
    if (event.button !== 0 || !element) return;
    if ((event.target as HTMLElement).closest("[role=option], button, input, select, a")) return;
    const kept = event.ctrlKey || event.metaKey || event.shiftKey ? [...store.getState().selection.ids] : [];
    const at = (clientX: number, clientY: number): { x: number; y: number } => {
      const bounds = element.getBoundingClientRect();
      return { x: clientX - bounds.left, y: clientY - bounds.top };
    };
    const from = at(event.clientX, event.clientY);
    let pointer = { clientX: event.clientX, clientY: event.clientY };
    const draw = (): void => {
      const to = at(pointer.clientX, pointer.clientY);
      const next = {
        x: Math.min(from.x, to.x),
        y: Math.min(from.y, to.y),
        width: Math.abs(to.x - from.x),
        height: Math.abs(to.y - from.y),
      };
      setBox(next);
      latest.current(next, kept);
    };
    const scroller = present(element.parentElement);
    const scrolling = setInterval(() => {
      const bounds = scroller.getBoundingClientRect();
      const step =
        pointer.clientY < bounds.top + EDGE ? -SCROLL_STEP : pointer.clientY > bounds.bottom - EDGE ? SCROLL_STEP : 0;
      if (step === 0 || !moved) return;
      scroller.scrollTop += step;
      draw();
    }, 16);
    let moved = false;
    const move = (next: PointerEvent): void => {
      pointer = next;
      moved = true;
      draw();
    };
    const end = (): void => {
      clearInterval(scrolling);
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", end);
      window.removeEventListener("pointercancel", end);
      setBox(null);
      if (!moved) latest.current({ x: -1, y: -1, width: 0, height: 0 }, kept);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", end);
    window.addEventListener("pointercancel", end);
  };
  return { box, start };
}

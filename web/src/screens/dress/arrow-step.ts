import type { Point } from "@humming-tide/core/values";
import type { KeyboardEvent } from "react";

/** Which way an arrow key points; prevents what it does elsewhere. Null for other keys. */
export function arrowStep(event: KeyboardEvent): Point | null {
  const steps: Readonly<Record<string, Point>> = {
    ArrowLeft: { x: -1, y: 0 },
    ArrowRight: { x: 1, y: 0 },
    ArrowUp: { x: 0, y: -1 },
    ArrowDown: { x: 0, y: 1 },
  };
  const step = steps[event.key];
  if (!step || event.ctrlKey || event.altKey || event.metaKey) return null;
  event.preventDefault();
  event.stopPropagation();
  return step;
}

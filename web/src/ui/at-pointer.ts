import type { Modifier } from "@dnd-kit/core";

/**
 * Keeps what is dragged at the pointer: the draggable itself is a whole surface, whose corner means
 * nothing.
 */
export const atPointer: Modifier = ({ activatorEvent, draggingNodeRect, transform }) => {
  if (!draggingNodeRect || !(activatorEvent instanceof PointerEvent)) return transform;
  return {
    ...transform,
    x: transform.x + activatorEvent.clientX - draggingNodeRect.left + 12,
    y: transform.y + activatorEvent.clientY - draggingNodeRect.top + 12,
  };
};

interface PointerPath {
  readonly move: (event: PointerEvent) => void;
  /** With where it was let go; null where Escape or the browser took the drag back. */
  readonly end: (last: PointerEvent | null) => void;
}

/** Captures the pointer that was pressed on an element, and follows it until it is let go. */
export function followPointer(element: Element, pointerId: number, { move, end }: PointerPath): void {
  element.setPointerCapture(pointerId);
  const listeners = new AbortController();
  const { signal } = listeners;
  const finish = (last: PointerEvent | null): void => {
    listeners.abort();
    end(last);
  };
  const on = (name: string, heard: (event: PointerEvent) => void): void =>
    element.addEventListener(name, (event) => heard(event as PointerEvent), { signal });
  on("pointermove", move);
  on("pointerup", finish);
  on("pointercancel", () => finish(null));
  window.addEventListener(
    "keydown",
    ({ key }) => {
      if (key === "Escape") finish(null);
    },
    { signal },
  );
}

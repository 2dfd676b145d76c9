import { type RefObject, useEffect, useRef } from "react";

/**
 * What arrow keys moved last, by its name. Moved into another row it is another element there, and
 * for a moment nothing has the focus.
 */
let moved: string | null = null;
let movedAtMs = 0;
/** A film is laid and drawn again far sooner. What is not there by then is not coming. */
const ON_ITS_WAY_MS = 1000;

/** Keeps the focus with something that arrow keys move, whichever row draws it. */
export function useMovedByKeys<Handle extends HTMLElement>(
  name: string,
): {
  readonly ref: RefObject<Handle | null>;
  /** To be called when a key has moved it. */
  readonly note: () => void;
} {
  const ref = useRef<Handle>(null);
  // After every drawing: the row may have been drawn again, or another one now has it.
  useEffect(() => {
    if (name !== moved || document.activeElement !== document.body) return;
    ref.current?.focus();
    // Having the focus again is no reason to forget it: the next drawing may take it away once
    // more.
    moved = name;
  });
  return {
    ref,
    note: () => {
      moved = name;
      movedAtMs = performance.now();
    },
  };
}

/** Whether the focus is on its way to what was moved: keys that come meanwhile are meant for it. */
export const isFocusOnItsWay = (): boolean =>
  moved !== null && document.activeElement === document.body && performance.now() - movedAtMs < ON_ITS_WAY_MS;

/** Forgets what was moved as soon as a person turns to something else. */
export function useForgetMoved(): void {
  useEffect(() => {
    const forget = (): void => {
      moved = null;
    };
    window.addEventListener("pointerdown", forget, true);
    window.addEventListener("focusin", forget);
    return () => {
      forget();
      window.removeEventListener("pointerdown", forget, true);
      window.removeEventListener("focusin", forget);
    };
  }, []);
}

import { useEffect } from "react";
import type { FilmClock } from "./film-clock.ts";

interface PlayerKeysWish {
  readonly clock: FilmClock;
  readonly lastFrame: number;
  /** Does something to the film, which has begun with it. */
  readonly act: (action: () => void) => void;
  readonly toggleFull: () => void;
  readonly showKeys: () => void;
}

/** The keys of the player, and those that presenters' remotes send. */
export function usePlayerKeys({ clock, lastFrame, act, toggleFull, showKeys }: PlayerKeysWish): void {
  useEffect(() => {
    const ofFilm: Readonly<Record<string, () => void>> = {
      " ": () => clock.toggle(),
      ArrowRight: () => clock.stepBy(1),
      PageDown: () => clock.stepBy(1),
      ArrowLeft: () => clock.stepBy(-1),
      PageUp: () => clock.stepBy(-1),
      Home: () => clock.seek(0),
      End: () => clock.seek(lastFrame),
      b: () => clock.setMode(clock.mode === "hand" ? "music" : "hand"),
    };
    const ofPage: Readonly<Record<string, () => void>> = { f: toggleFull, "?": showKeys };
    const press = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || isTaken(event)) return;
      const action = Object.hasOwn(ofFilm, event.key) ? ofFilm[event.key] : undefined;
      const other = Object.hasOwn(ofPage, event.key) ? ofPage[event.key] : undefined;
      if (!action && !other) return;
      event.preventDefault();
      if (action) act(action);
      else other?.();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [clock, lastFrame, act, toggleFull, showKeys]);
}

/**
 * What has the focus keeps its own keys: a button its space bar, the line all that move it, a
 * dialog everything.
 */
function isTaken({ target, key }: KeyboardEvent): boolean {
  const isOn = (what: string): boolean => target instanceof HTMLElement && target.closest(what) !== null;
  return isOn("[role=dialog]") || (isOn("input") && key.length > 1) || (isOn("button") && key === " ");
}

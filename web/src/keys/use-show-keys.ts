import { indexOfNearestBeat } from "@humming-tide/core/grid";
import { itemAt } from "@humming-tide/core/presence";
import { useEffect } from "react";
import { toggleFullScreen } from "../stage/full-screen.ts";
import type { Player } from "../stage/player.ts";
import { showActions } from "../store/show-slice.ts";
import { store } from "../store/store.ts";
import { isForControl, watchFocus } from "./keys.ts";
import { letterOf } from "./letters.ts";

/** The keys that work on all screens of a show. */
export function useShowKeys(player: Player, showSheet: () => void): void {
  useEffect(() => watchFocus(), []);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
        if ((event.target as HTMLElement).closest("input:not([type=range], [type=checkbox], [type=color]), textarea"))
          return;
        event.preventDefault();
        store.dispatch(event.shiftKey ? showActions.redone() : showActions.undone());
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey || isForControl(event)) return;
      if (event.key === " ") player.toggle();
      else if (event.key === "ArrowLeft" || event.key === "ArrowRight")
        step(player, event.key === "ArrowLeft" ? -1 : 1, event.shiftKey);
      else if (letterOf(event) === "sheet") showSheet();
      else if (letterOf(event) === "fullScreen") toggleFullScreen(null);
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [player, showSheet]);
}

function step(player: Player, direction: 1 | -1, byBeat: boolean): void {
  if (!byBeat) {
    player.stepFrames(direction);
    return;
  }
  const beats = player.track?.beats ?? [];
  const now = player.filmSeconds();
  const near = indexOfNearestBeat(beats, now);
  if (near < 0) return;
  const isThere = Math.abs(itemAt(beats, near).seconds - now) < 0.02;
  const behind = itemAt(beats, near).seconds < now;
  const target = isThere ? near + direction : direction > 0 ? (behind ? near + 1 : near) : behind ? near : near - 1;
  const beat = beats[Math.max(0, Math.min(beats.length - 1, target))];
  if (beat) player.seek(beat.seconds);
}

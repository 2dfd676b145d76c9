import type { FilmPlan } from "@humming-tide/core/film";
import { slotIndexAt } from "@humming-tide/core/picture";
import { itemAt } from "@humming-tide/core/presence";
import { frameAt } from "@humming-tide/core/time";
import { useEffect } from "react";
import { isForControl, isInField } from "../../keys/keys.ts";
import { letterOf } from "../../keys/letters.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { frameAlone } from "./dressed.ts";

/** The keys of Dress (keys.ts lists them for people). */
export function useDressKeys(plan: FilmPlan, toggleSafeAreas: () => void, toggleContactSheet: () => void): void {
  const player = usePlayer();
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey) return;
      const side = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
      // With Alt, arrows are ours also on a row of choices, which would take them without.
      if (side !== 0 && event.altKey && !isInField(event)) {
        const here = slotIndexAt(plan.slots, frameAt(player.filmSeconds(), plan.rate));
        const slot = itemAt(plan.slots, Math.max(0, Math.min(plan.slots.length - 1, here + side)));
        player.seek((frameAlone(plan, slot) * plan.rate.den) / plan.rate.num);
      } else if (letterOf(event) === "safeAreas" && !isForControl(event)) {
        toggleSafeAreas();
      } else if (letterOf(event) === "contactSheet" && !isForControl(event)) {
        toggleContactSheet();
      } else return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener("keydown", onKey, true);
    return () => window.removeEventListener("keydown", onKey, true);
  }, [plan, player, toggleSafeAreas, toggleContactSheet]);
}

import type { Master } from "@humming-tide/core/sound";
import { useEffect, useSyncExternalStore } from "react";
import { useAppSelector } from "../store/store.ts";
import { usePlayer } from "./player-context.tsx";

/**
 * How loud the film is, and how far the measuring of a newer mix is (null: nothing is measured).
 */
export function useMaster(): { readonly master: Master | null; readonly measuring: number | null } {
  const player = usePlayer();
  const subscribe = (tell: () => void): (() => void) => {
    player.addEventListener("master", tell);
    return () => player.removeEventListener("master", tell);
  };
  const master = useSyncExternalStore(subscribe, () => player.master);
  const measuring = useSyncExternalStore(subscribe, () => player.measuring);
  return { master, measuring };
}

/** Sources that are listened to alone are so on every screen of the show. */
export function useSoloed(): void {
  const player = usePlayer();
  const soloed = useAppSelector((state) => state.sound.soloed);
  useEffect(() => player.setSoloed(soloed), [player, soloed]);
}

import { createContext, type ReactNode, useContext, useEffect, useState, useSyncExternalStore } from "react";
import { useAppSelector } from "../store/store.ts";
import { Player, type PlayerState } from "./player.ts";

const PlayerContext = createContext<Player | null>(null);

/**
 * One player for all screens of a show, so that the place in the film is kept when the screen
 * changes.
 */
export function PlayerProvider({ children }: { children: ReactNode }): ReactNode {
  const [player] = useState(() => new Player());
  const plan = useAppSelector((state) => state.view.plan);
  useEffect(() => () => player.close(), [player]);
  useEffect(() => player.setPlan(plan), [player, plan]);
  return <PlayerContext value={player}>{children}</PlayerContext>;
}

export function usePlayer(): Player {
  const player = useContext(PlayerContext);
  if (!player) throw new Error("usePlayer is for the screens of a show");
  return player;
}

export function usePlayerState(player: Player): PlayerState {
  return useSyncExternalStore(
    (tell) => {
      player.addEventListener("state", tell);
      return () => player.removeEventListener("state", tell);
    },
    () => player.state,
  );
}

/**
 * Calls back with the film's place on every picture of the screen while playing, and whenever it is
 * moved.
 */
export function useFilmClock(onTime: (filmSeconds: number) => void): void {
  const player = usePlayer();
  useEffect(() => {
    let request = 0;
    const tick = (): void => {
      onTime(player.filmSeconds());
      if (player.state === "playing") request = requestAnimationFrame(tick);
    };
    const wake = (): void => {
      cancelAnimationFrame(request);
      request = requestAnimationFrame(tick);
    };
    wake();
    player.addEventListener("move", wake);
    return () => {
      cancelAnimationFrame(request);
      player.removeEventListener("move", wake);
    };
  }, [player, onTime]);
}

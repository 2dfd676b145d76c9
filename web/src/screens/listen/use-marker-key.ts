import { useEffect } from "react";
import { isForControl } from "../../keys/keys.ts";
import { letterOf } from "../../keys/letters.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { useListenSong } from "./listen-song.tsx";

/** `M` puts a marker at the playhead, also while the song plays. `onPlaced` hears of it. */
export function useMarkerKey(onPlaced: () => void): void {
  const player = usePlayer();
  const { placeMarker } = useListenSong();
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (letterOf(event) !== "marker" || event.repeat || isForControl(event)) return;
      event.preventDefault();
      placeMarker(player.state === "playing" ? Math.max(0, player.heardAt(event.timeStamp)) : player.filmSeconds());
      onPlaced();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [player, placeMarker, onPlaced]);
}

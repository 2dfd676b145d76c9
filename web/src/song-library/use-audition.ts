import { useEffect, useRef, useState } from "react";
import { mediaUrl } from "../api.ts";
import { usePlayer } from "../stage/player-context.tsx";

/**
 * Plays one song of the library at a time, as it is; the film pauses for it, and it ends with the
 * dialog.
 */
export function useAudition(): { readonly playing: string | null; readonly toggle: (sha256: string) => void } {
  const player = usePlayer();
  const [playing, setPlaying] = useState<string | null>(null);
  const sound = useRef<HTMLAudioElement | null>(null);
  useEffect(
    () => () => {
      sound.current?.pause();
    },
    [],
  );
  const toggle = (sha256: string): void => {
    sound.current?.pause();
    if (playing === sha256) {
      setPlaying(null);
      return;
    }
    player.pause();
    const audio = new Audio(mediaUrl(sha256, "sound"));
    sound.current = audio;
    audio.addEventListener("ended", () => setPlaying(null));
    setPlaying(sha256);
    void audio.play().catch(() => setPlaying((now) => (now === sha256 ? null : now)));
  };
  return { playing, toggle };
}

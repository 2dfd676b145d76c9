import { lastOf } from "@humming-tide/core/presence";
import { useCallback, useEffect, useState } from "react";
import { isForControl } from "../../keys/keys.ts";
import { letterOf } from "../../keys/letters.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { storedTapLag } from "./tap-lag.ts";

/** Taps of one playing, in seconds of the song, already corrected for the person's lag. */
type TapPass = readonly number[];

interface TapPasses {
  readonly passes: readonly TapPass[];
  /** Tap now, as the key does. */
  readonly tap: (timeStamp: number) => void;
  readonly forget: (index: number) => void;
  readonly forgetAll: () => void;
}

const keyOf = (songId: string): string => `humming-tide taps ${location.pathname} ${songId}`;

/**
 * What was tapped and not yet used survives the page: it lies in the browser until it is taken or
 * forgotten.
 */
function stored(songId: string): readonly TapPass[] {
  try {
    const passes = JSON.parse(localStorage.getItem(keyOf(songId)) ?? "[]") as unknown;
    return Array.isArray(passes) ? (passes as TapPass[]) : [];
  } catch {
    return [];
  }
}

/** `T` while the song plays taps; each playing is a pass of its own. `onTap` hears of it. */
export function useTapPasses(songId: string, onTap: () => void): TapPasses {
  const player = usePlayer();
  const [passes, setPasses] = useState(() => stored(songId));
  const [isPassOpen, setPassOpen] = useState(false);
  useEffect(() => {
    if (passes.length > 0) localStorage.setItem(keyOf(songId), JSON.stringify(passes));
    else localStorage.removeItem(keyOf(songId));
  }, [passes, songId]);
  useEffect(() => {
    const close = (): void => {
      if (player.state !== "playing") setPassOpen(false);
    };
    player.addEventListener("state", close);
    return () => player.removeEventListener("state", close);
  }, [player]);
  const tap = useCallback(
    (timeStamp: number) => {
      if (player.state !== "playing") return;
      const { speed } = player.wish;
      const seconds = player.heardAt(timeStamp) - (storedTapLag()?.medianSeconds ?? 0) * speed;
      if (seconds < 0) return;
      setPasses((before) => {
        const last = isPassOpen ? before.at(-1) : undefined;
        if (!last) return [...before, [seconds]];
        // A loop begins the stretch again: what comes earlier than the tap before it is another
        // pass.
        if (seconds <= lastOf(last)) return [...before, [seconds]];
        return [...before.slice(0, -1), [...last, seconds]];
      });
      setPassOpen(true);
      onTap();
    },
    [player, isPassOpen, onTap],
  );
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (letterOf(event) !== "tap" || event.repeat || isForControl(event)) return;
      event.preventDefault();
      tap(event.timeStamp);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [tap]);
  const forget = useCallback((index: number) => setPasses((before) => before.filter((_, i) => i !== index)), []);
  const forgetAll = useCallback(() => setPasses([]), []);
  return { passes, tap, forget, forgetAll };
}

import type { ReactNode } from "react";
import { useEffect } from "react";
import { usePlayer } from "../../stage/player-context.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { Choice } from "../../ui/Choice.tsx";
import { useListenSong } from "./listen-song.tsx";

const SPEEDS = ["0.5", "0.6", "0.75", "0.9", "1"].map((value) => ({ value, label: `${Number(value) * 100}` }));

/**
 * How the song is played while it is judged: slower at the same pitch, a stretch round and round, a
 * click on every beat.
 */
export function PlayingPanel(): ReactNode {
  const player = usePlayer();
  const dispatch = useAppDispatch();
  const { grid } = useListenSong();
  const { speed, loop, clickGain } = useAppSelector((state) => state.view.listening);
  useEffect(() => {
    const clicks = grid.beats.map((beat) => ({ seconds: beat.seconds, first: beat.position === 1 }));
    player.setWish({ speed, loop, clicks: clickGain > 0 ? clicks : [], clickGain });
  }, [player, grid, speed, loop, clickGain]);
  useEffect(() => () => player.setWish({}), [player]);
  return (
    <section aria-label="Playing" className="flex flex-col gap-1.5 px-4 py-3">
      <div className="flex items-center justify-between text-[13px] text-quiet">
        <span className="shrink-0">Speed, %</span>
        <Choice
          label="Speed of playing"
          value={String(speed)}
          options={SPEEDS}
          onChange={(value) => dispatch(viewActions.listeningChanged({ speed: Number(value) }))}
        />
      </div>
      <label className="flex items-center gap-3 text-[13px] text-quiet">
        <span className="w-10">Click</span>
        <input
          type="range"
          min={0}
          max={100}
          step={5}
          value={Math.round(clickGain * 100)}
          aria-label="Volume of the click track"
          className="min-w-0 flex-1 accent-[var(--foam)]"
          onChange={(event) => dispatch(viewActions.listeningChanged({ clickGain: Number(event.target.value) / 100 }))}
        />
        <span className="w-9 text-right text-ink">{clickGain > 0 ? `${Math.round(clickGain * 100)} %` : "off"}</span>
      </label>
    </section>
  );
}

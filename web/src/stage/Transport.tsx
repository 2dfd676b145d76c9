import { clockText, frameAt, frames, seconds, timecode } from "@humming-tide/core/time";
import { ChevronLeft, ChevronRight, Maximize, Pause, Play, SkipBack } from "lucide-react";
import { type ReactNode, useCallback, useRef } from "react";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { viewActions } from "../store/view-slice.ts";
import { IconButton } from "../ui/Button.tsx";
import { toggleFullScreen } from "./full-screen.ts";
import type { Track } from "./player.ts";
import { useFilmClock, usePlayer, usePlayerState } from "./player-context.tsx";

/** Play, step and seek. The slider and the timecode move without rendering the page again. */
export function Transport({ track }: { track: Pick<Track, "rate" | "totalFrames"> }): ReactNode {
  const player = usePlayer();
  const state = usePlayerState(player);
  const dispatch = useAppDispatch();
  const isDraft = useAppSelector((root) => root.view.isDraft);
  const slider = useRef<HTMLInputElement>(null);
  const label = useRef<HTMLSpanElement>(null);
  const show = useCallback(
    (filmSeconds: number) => {
      const frame = Math.min(track.totalFrames - 1, frameAt(seconds(filmSeconds), track.rate));
      if (slider.current && document.activeElement !== slider.current) slider.current.value = String(frame);
      if (label.current) label.current.textContent = timecode(frames(frame), track.rate);
    },
    [track],
  );
  useFilmClock(show);
  const playing = state === "playing";
  return (
    <div className="@container border-t border-line bg-raised">
      <div className="flex items-center gap-1 px-2 py-1.5">
        <IconButton label="Go to start" onClick={() => player.seek(0)}>
          <SkipBack size={16} />
        </IconButton>
        <IconButton
          label={playing ? "Stop" : "Play"}
          primary
          disabled={state === "loading" || state === "empty" || state === "failed"}
          onClick={() => player.toggle()}
        >
          {playing ? <Pause size={17} /> : <Play size={17} />}
        </IconButton>
        <IconButton label="One frame back" onClick={() => player.stepFrames(-1)}>
          <ChevronLeft size={16} />
        </IconButton>
        <IconButton label="One frame forward" onClick={() => player.stepFrames(1)}>
          <ChevronRight size={16} />
        </IconButton>
        <input
          ref={slider}
          type="range"
          aria-label="Place in the film, in frames"
          min={0}
          max={track.totalFrames - 1}
          defaultValue={0}
          className="mx-1 min-w-0 flex-1 accent-[var(--ink-soft)]"
          onChange={(event) => player.seek((Number(event.target.value) * track.rate.den) / track.rate.num)}
          onPointerUp={(event) => event.currentTarget.blur()}
        />
        <span ref={label} data-testid="timecode" className="w-[82px] text-right text-soft" />
        <button
          type="button"
          aria-pressed={isDraft}
          title={isDraft ? "Draft: drawn with fewer pixels, plays on slow machines" : "Full quality"}
          className="hidden rounded px-1.5 py-1 text-[12px] text-quiet hover:bg-high hover:text-ink aria-pressed:text-ink @md:block"
          onClick={() => dispatch(viewActions.draftToggled())}
        >
          {isDraft ? "Draft" : "Full"}
        </button>
        <IconButton label="Full screen (F)" onClick={() => toggleFullScreen(slider.current)}>
          <Maximize size={15} />
        </IconButton>
        <span className="sr-only">of {clockText(player.lengthSeconds)}</span>
        {state === "loading" && <span className="text-quiet">loading the song …</span>}
        {state === "failed" && <span className="text-error">the song cannot be played</span>}
      </div>
    </div>
  );
}

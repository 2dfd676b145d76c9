import { clockText, frameAt, timecode } from "@humming-tide/core/time";
import { ChevronLeft, ChevronRight, Maximize, Pause, Play, SkipBack } from "lucide-react";
import { type ReactNode, useCallback, useRef } from "react";
import { useLetters } from "../keys/letters.ts";
import { IconButton } from "../ui/Button.tsx";
import { DraftButton } from "./DraftButton.tsx";
import { toggleFullScreen } from "./full-screen.ts";
import type { Track } from "./player.ts";
import { useFilmClock, usePlayer, usePlayerState } from "./player-context.tsx";

interface TransportProps {
  track: Pick<Track, "rate" | "totalFrames">;
  /**
   * Whether the choice of how finely the film is drawn stands here, and not elsewhere on the
   * screen.
   */
  hasQuality?: boolean;
}

/** Play, step and seek. The slider and the timecode move without rendering the page again. */
export function Transport({ track, hasQuality = false }: TransportProps): ReactNode {
  const player = usePlayer();
  const state = usePlayerState(player);
  const letters = useLetters();
  const slider = useRef<HTMLInputElement>(null);
  const label = useRef<HTMLSpanElement>(null);
  const show = useCallback(
    (filmSeconds: number) => {
      const frame = Math.min(track.totalFrames - 1, frameAt(filmSeconds, track.rate));
      if (slider.current && document.activeElement !== slider.current) slider.current.value = String(frame);
      if (label.current) label.current.textContent = timecode(frame, track.rate);
    },
    [track],
  );
  useFilmClock(show);
  const playing = state === "playing";
  // Said where the time stands, so that nothing moves when the song is there.
  const isHeard = state !== "loading" && state !== "failed";
  return (
    <div className="border-t border-line bg-raised">
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
        <span className="relative w-[82px] shrink-0 text-right text-soft">
          <span ref={label} data-testid="timecode" className={isHeard ? "" : "invisible"} />
          {state === "loading" && <span className="absolute inset-0 text-quiet">loading …</span>}
          {state === "failed" && (
            <span className="absolute inset-0 text-error" title="The song cannot be played">
              no sound
            </span>
          )}
        </span>
        {hasQuality && <DraftButton />}
        <IconButton
          label={`Full screen (${letters.fullScreen.toUpperCase()})`}
          onClick={() => toggleFullScreen(slider.current)}
        >
          <Maximize size={15} />
        </IconButton>
        <span className="sr-only" role="status">
          {state === "failed" ? "The song cannot be played." : `of ${clockText(player.lengthSeconds)}`}
        </span>
      </div>
    </div>
  );
}

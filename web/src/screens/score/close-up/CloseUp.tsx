import type { ArrangedMusic } from "@humming-tide/core/arrange";
import type { FilmPlan } from "@humming-tide/core/film";
import { landingText } from "@humming-tide/core/fit";
import { present } from "@humming-tide/core/presence";
import { type ReactNode, type PointerEvent as ReactPointerEvent, useCallback, useEffect, useMemo, useRef } from "react";
import type { Player } from "../../../stage/player.ts";
import { useFilmClock, usePlayer } from "../../../stage/player-context.tsx";
import { useAppSelector } from "../../../store/store.ts";
import { followPointer } from "../../../ui/follow-pointer.ts";
import { filmWave } from "../layout/film-wave.ts";
import { MARGIN_WIDTH } from "../layout/row-size.ts";
import { CLOSE_UP_HEIGHT, CLOSE_UP_SECONDS, drawCloseUp } from "./draw-close-up.ts";

/**
 * Two seconds around the playhead, down to single frames: where the music strikes, where the
 * picture changes, and the milliseconds between.
 */
export function CloseUp({ plan, music }: { plan: FilmPlan; music: ArrangedMusic }): ReactNode {
  const player = usePlayer();
  const canvas = useRef<HTMLCanvasElement>(null);
  const words = useRef<HTMLParagraphElement>(null);
  const heard = useAppSelector((state) => state.song.heard);
  const wave = useMemo(() => filmWave(music, heard), [music, heard]);
  /**
   * Kept, because asking for it on every picture of the screen would lay the page out each time.
   */
  const width = useRef(0);
  const draw = useCallback(
    (filmSeconds: number) => {
      if (canvas.current) drawCloseUp(canvas.current, width.current, { plan, music, wave, filmSeconds });
      const text = landingWords(plan, filmSeconds);
      if (words.current && words.current.textContent !== text) words.current.textContent = text;
    },
    [plan, music, wave],
  );
  useFilmClock(draw);
  useEffect(() => {
    const again = (): void => draw(player.filmSeconds());
    const observer = new ResizeObserver(([entry]) => {
      width.current = present(entry).contentRect.width;
      again();
    });
    observer.observe(present(canvas.current));
    window.addEventListener("themechange", again);
    return () => {
      observer.disconnect();
      window.removeEventListener("themechange", again);
    };
  }, [draw, player]);
  return (
    <section aria-label="Close-up" className="shrink-0 border-t border-line bg-raised pt-1 pr-4 pb-1.5 pl-1">
      <p
        ref={words}
        data-testid="close-up-words"
        className="truncate text-xs leading-5 text-soft tabular-nums"
        style={{ paddingLeft: MARGIN_WIDTH }}
      />
      <div className="flex">
        <span className="shrink-0 pt-1 pr-3 text-right text-xs text-quiet" style={{ width: MARGIN_WIDTH }}>
          Close-up
        </span>
        <canvas
          ref={canvas}
          data-testid="close-up"
          aria-hidden
          className="block min-w-0 flex-1 cursor-grab touch-none"
          style={{ height: CLOSE_UP_HEIGHT }}
          onPointerDown={(event) => scrub(event, player)}
        />
      </div>
    </section>
  );
}

/** The strip is pulled under the playhead, which stays in its middle. */
function scrub(event: ReactPointerEvent<HTMLCanvasElement>, player: Player): void {
  const [from, x] = [player.filmSeconds(), event.clientX];
  const scale = CLOSE_UP_SECONDS / event.currentTarget.clientWidth;
  followPointer(event.currentTarget, event.pointerId, {
    move: (moved) => player.seek(from - (moved.clientX - x) * scale),
    end: () => undefined,
  });
}

/** The change of picture nearest to the playhead, in words. */
function landingWords(plan: FilmPlan, filmSeconds: number): string {
  const slots = plan.slots.filter((slot) => slot.landing);
  if (slots.length === 0) return "One picture: nothing to land.";
  const nearest = slots.reduce((best, slot) =>
    Math.abs(present(slot.landing).seconds - filmSeconds) < Math.abs(present(best.landing).seconds - filmSeconds)
      ? slot
      : best,
  );
  const landing = present(nearest.landing);
  const error = present(nearest.landingErrorMs);
  const lead = plan.leadFrames > 0 ? `, ${plan.leadFrames} early by wish` : "";
  return `Slot ${nearest.index + 1} lands on ${landingText(landing)} at ${landing.seconds.toFixed(3)} s, with frame ${nearest.startFrame}${lead}: ${error > 0 ? "+" : ""}${error.toFixed(1)} ms`;
}

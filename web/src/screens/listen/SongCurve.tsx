import type { FilmPlan } from "@humming-tide/core/film";
import { type KeyboardEvent, type PointerEvent, type ReactNode, useCallback, useEffect, useRef, useState } from "react";
import { useFilmClock, usePlayer } from "../../stage/player-context.tsx";
import { store } from "../../store/store.ts";
import { Choice } from "../../ui/Choice.tsx";
import { drawCurve } from "./draw-curve.ts";

const ZOOMS = [
  { value: "20", label: "20 s" },
  { value: "8", label: "8 s" },
  { value: "3", label: "3 s" },
  { value: "1", label: "1 s" },
] as const;
type Zoom = (typeof ZOOMS)[number]["value"];

/** Above the whole song with its energy, below a stretch around the playhead with every beat. Click or drag to move. */
export function SongCurve({ plan }: { plan: FilmPlan | null }): ReactNode {
  const [zoom, setZoom] = useState<Zoom>("8");
  return (
    <>
      <Curve plan={plan} windowSeconds={null} label="The whole song" className="h-[132px]" />
      <div className="flex items-center justify-between">
        <h2 className="text-[15px]">Around the playhead</h2>
        <Choice label="How much is shown" value={zoom} options={ZOOMS} onChange={setZoom} />
      </div>
      <Curve plan={plan} windowSeconds={Number(zoom)} label="Around the playhead" className="min-h-[180px] flex-1" />
    </>
  );
}

interface CurveProps {
  plan: FilmPlan | null;
  /** How many seconds are shown around the playhead; null for the whole song. */
  windowSeconds: number | null;
  label: string;
  className: string;
}

function Curve({ plan, windowSeconds, label, className }: CurveProps): ReactNode {
  const canvas = useRef<HTMLCanvasElement>(null);
  const player = usePlayer();
  const draw = useCallback(
    (filmSeconds: number) => {
      const { song } = store.getState();
      if (!canvas.current || !song.analysis || !song.peaks) return;
      const duration = song.analysis.durationSeconds;
      const from = windowSeconds === null ? 0 : filmSeconds - windowSeconds / 2;
      const to = windowSeconds === null ? duration : filmSeconds + windowSeconds / 2;
      drawCurve(canvas.current, {
        from,
        to,
        playhead: filmSeconds,
        peaks: song.peaks,
        energy: windowSeconds === null ? song.analysis.energy : null,
        beats: plan?.grid.beats ?? song.analysis.beats,
        sections: song.analysis.sections,
        doubts: song.analysis.doubts,
        landings: plan?.slots.flatMap((slot) => (slot.landing ? [slot.landing.seconds] : [])) ?? [],
      });
    },
    [plan, windowSeconds],
  );
  useFilmClock(draw);
  useEffect(() => {
    const again = (): void => draw(player.filmSeconds());
    const resized = new ResizeObserver(again);
    if (canvas.current) resized.observe(canvas.current);
    window.addEventListener("themechange", again);
    again();
    return () => {
      resized.disconnect();
      window.removeEventListener("themechange", again);
    };
  }, [draw, player]);

  const seek = (event: PointerEvent<HTMLCanvasElement>): void => {
    const box = event.currentTarget.getBoundingClientRect();
    const share = (event.clientX - box.left) / box.width;
    const duration = store.getState().song.analysis?.durationSeconds ?? 0;
    player.seek(windowSeconds === null ? share * duration : player.filmSeconds() + (share - 0.5) * windowSeconds);
  };
  const step = (event: KeyboardEvent): void => {
    if (event.key !== "Home" && event.key !== "End") return;
    event.preventDefault();
    player.seek(event.key === "Home" ? 0 : player.lengthSeconds);
  };
  return (
    <canvas
      ref={canvas}
      role="img"
      tabIndex={0}
      aria-label={`${label}: waveform and grid. Home and End go to its ends.`}
      data-testid={windowSeconds === null ? "whole-song" : "close-curve"}
      className={`w-full cursor-crosshair rounded-md bg-raised ${className}`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        seek(event);
      }}
      onPointerMove={(event) => windowSeconds === null && event.buttons === 1 && seek(event)}
      onKeyDown={step}
    />
  );
}

import type { FilmPlan } from "@humming-tide/core/film";
import { drawFrame, picturesBetween, planFrame, type Surface2D } from "@humming-tide/core/picture";
import { frameAt, seconds } from "@humming-tide/core/time";
import { type ReactNode, useCallback, useEffect, useRef } from "react";
import { useFilmClock, usePlayer } from "./player-context.tsx";
import { StageImages } from "./stage-images.ts";

/** Pictures are fetched this far ahead of the playhead. */
const AHEAD_SECONDS = 8;

/** The film itself, drawn by the same code as the export, on neutral grey so that colours are judged fairly. */
export function Stage({ plan }: { plan: FilmPlan }): ReactNode {
  const canvas = useRef<HTMLCanvasElement>(null);
  const images = useRef<StageImages | null>(null);
  const player = usePlayer();

  const draw = useCallback(
    (filmSeconds: number) => {
      const target = canvas.current;
      const source = images.current;
      const context = target?.getContext("2d", { alpha: false });
      if (!target || !source || !context) return;
      fitCanvas(target, plan);
      const frame = Math.min(plan.totalFrames - 1, frameAt(seconds(filmSeconds), plan.rate));
      const ahead = frame + Math.round((AHEAD_SECONDS * plan.rate.num) / plan.rate.den);
      source.need(picturesBetween(plan, frame, ahead).slice(0, 6));
      const scale = target.width / plan.size.width;
      context.setTransform(scale, 0, 0, target.height / plan.size.height, 0, 0);
      drawFrame(context as unknown as Surface2D<ImageBitmap>, planFrame(plan, frame), source.get);
      target.dataset["frame"] = String(frame);
    },
    [plan],
  );
  useFilmClock(draw);

  useEffect(() => {
    const source = new StageImages();
    images.current = source;
    return () => source.close();
  }, []);
  useEffect(() => {
    const again = (): void => draw(player.filmSeconds());
    const source = images.current;
    source?.addEventListener("arrived", again);
    const resized = new ResizeObserver(again);
    if (canvas.current) resized.observe(canvas.current);
    again();
    return () => {
      source?.removeEventListener("arrived", again);
      resized.disconnect();
    };
  }, [draw, player]);

  return (
    <div className="flex h-full w-full items-center justify-center bg-stage">
      <canvas
        ref={canvas}
        data-testid="stage"
        aria-label="The film at the playhead"
        role="img"
        className="max-h-full max-w-full"
        style={{ aspectRatio: `${plan.size.width} / ${plan.size.height}`, width: "100%" }}
      />
    </div>
  );
}

function fitCanvas(canvas: HTMLCanvasElement, plan: FilmPlan): void {
  const width = Math.max(2, Math.min(plan.size.width, Math.round(canvas.clientWidth * devicePixelRatio)));
  const height = Math.max(2, Math.round((width * plan.size.height) / plan.size.width));
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
}

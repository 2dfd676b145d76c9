import { type RefObject, useEffect } from "react";
import { useFilmClock, usePlayer } from "./player-context.tsx";

/**
 * Draws on a canvas whenever what is seen there changes: with the film's clock, when the canvas has
 * another size, in other colours of the page, and when something comes that was still missing.
 *
 * @param draw Draws the film at this second; the drawing begins again when it is another function.
 * @param sources Say "arrived" when there is more to draw. The list is read once for each `draw`.
 */
export function useFilmDrawing(
  canvas: RefObject<HTMLCanvasElement | null>,
  draw: (filmSeconds: number) => void,
  sources: () => readonly (EventTarget | null)[] = NONE,
): void {
  const player = usePlayer();
  useFilmClock(draw);
  useEffect(() => {
    const again = (): void => draw(player.filmSeconds());
    const heard = sources().filter((source) => source !== null);
    for (const source of heard) source.addEventListener("arrived", again);
    window.addEventListener("themechange", again);
    const resized = new ResizeObserver(again);
    if (canvas.current) resized.observe(canvas.current);
    again();
    return () => {
      for (const source of heard) source.removeEventListener("arrived", again);
      window.removeEventListener("themechange", again);
      resized.disconnect();
    };
  }, [canvas, draw, player, sources]);
}

const NONE = (): readonly EventTarget[] => [];

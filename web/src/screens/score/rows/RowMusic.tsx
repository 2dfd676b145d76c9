import type { ArrangedMusic } from "@humming-tide/core/arrange";
import { present } from "@humming-tide/core/presence";
import { memo, type ReactNode, useEffect, useRef } from "react";
import { useAppSelector } from "../../../store/store.ts";
import { filmWave } from "../layout/film-wave.ts";
import { musicHeight, type RowSize } from "../layout/row-size.ts";
import type { ScoreLayout, ScoreRow } from "../layout/score-layout.ts";
import { drawInTurn } from "../layout/turns.ts";
import { drawRow } from "./draw-row.ts";

export interface RowMusicProps {
  row: ScoreRow;
  layout: ScoreLayout;
  size: RowSize;
  music: ArrangedMusic;
  fadeStartSeconds: number;
  filmSeconds: number;
}

/** Waveform, grid, sections, accents and markers of one row, drawn once on a canvas. */
export const RowMusic = memo(function RowMusic(props: RowMusicProps): ReactNode {
  const { row, layout, size, music, fadeStartSeconds, filmSeconds } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const heard = useAppSelector((state) => state.song.heard);
  useEffect(() => {
    const target = canvas.current;
    if (!target) return;
    const wave = filmWave(music, heard);
    let width = 0;
    let giveUp = (): void => undefined;
    const draw = (): void => {
      giveUp();
      giveUp = drawInTurn(() =>
        drawRow(target, width, { row, layout, size, music, wave, fadeStartSeconds, filmSeconds }),
      );
    };
    const resized = new ResizeObserver(([entry]) => {
      width = present(entry).contentRect.width;
      draw();
    });
    resized.observe(target);
    window.addEventListener("themechange", draw);
    return () => {
      giveUp();
      resized.disconnect();
      window.removeEventListener("themechange", draw);
    };
  }, [row, layout, size, music, heard, fadeStartSeconds, filmSeconds]);
  return <canvas ref={canvas} aria-hidden className="block w-full" style={{ height: musicHeight(size) }} />;
});

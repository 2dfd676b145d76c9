import type { WaveformPeaks } from "@humming-tide/core/music";
import { memo, type ReactNode, useEffect, useRef } from "react";
import { useAppSelector } from "../../store/store.ts";
import { themeColour } from "../../ui/theme.ts";
import { beatsOfRow, type ScoreLayout, type ScoreRow, timeAt } from "./score-layout.ts";

const HEIGHT = 58;
const WAVE_HEIGHT = 38;

interface RowMusicProps {
  row: ScoreRow;
  layout: ScoreLayout;
  fadeStartSeconds: number;
  filmSeconds: number;
}

/** Waveform and grid of one row, drawn once on a canvas: beats as ripples, bar starts as strokes with a foot. */
export const RowMusic = memo(function RowMusic({
  row,
  layout,
  fadeStartSeconds,
  filmSeconds,
}: RowMusicProps): ReactNode {
  const canvas = useRef<HTMLCanvasElement>(null);
  const peaks = useAppSelector((state) => state.song.peaks);
  useEffect(() => {
    const target = canvas.current;
    if (!target) return;
    const draw = (): void => drawRow(target, row, layout, peaks, fadeStartSeconds, filmSeconds);
    const resized = new ResizeObserver(draw);
    resized.observe(target);
    window.addEventListener("themechange", draw);
    return () => {
      resized.disconnect();
      window.removeEventListener("themechange", draw);
    };
  }, [row, layout, peaks, fadeStartSeconds, filmSeconds]);
  return <canvas ref={canvas} aria-hidden className="block w-full" style={{ height: HEIGHT }} />;
});

function drawRow(
  canvas: HTMLCanvasElement,
  row: ScoreRow,
  layout: ScoreLayout,
  peaks: WaveformPeaks | null,
  fadeStart: number,
  filmEnd: number,
): void {
  const width = canvas.clientWidth;
  const context = canvas.getContext("2d");
  if (!context || width === 0) return;
  canvas.width = Math.round(width * devicePixelRatio);
  canvas.height = Math.round(HEIGHT * devicePixelRatio);
  context.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0);
  const foam = themeColour("foam");
  const quiet = themeColour("line-strong");
  const firstShare = beatsOfRow(layout, row.index)[0]?.share ?? 0;
  if (peaks) {
    const middle = 6 + WAVE_HEIGHT / 2;
    for (let x = Math.floor(firstShare * width); x < width; x++) {
      const from = timeAt(layout, row.index, x / width);
      if (from >= Math.min(row.endSeconds, filmEnd)) break;
      const [low, high] = extremes(peaks, from, timeAt(layout, row.index, (x + 1) / width));
      const fade = from > fadeStart ? Math.max(0, 1 - (from - fadeStart) / (filmEnd - fadeStart)) : 1;
      context.fillStyle = foam;
      context.globalAlpha = 0.5;
      context.fillRect(
        x,
        middle - (high / 127) * (WAVE_HEIGHT / 2) * fade,
        1,
        Math.max(1, ((high - low) / 127) * (WAVE_HEIGHT / 2) * fade),
      );
    }
  }
  context.globalAlpha = 1;
  context.lineWidth = 1.3;
  for (const { beat, share } of beatsOfRow(layout, row.index)) {
    const x = Math.round(share * width) + 0.5;
    context.strokeStyle = beat.imagined ? quiet : foam;
    context.beginPath();
    if (beat.position === 1) {
      context.moveTo(x, 3);
      context.lineTo(x, HEIGHT - 2);
      context.lineTo(x + 5, HEIGHT - 2);
    } else {
      const height = beat.imagined ? 1.5 : 2 + 4.5 * beat.confidence;
      context.ellipse(x, HEIGHT - 2, 6.5, height, 0, Math.PI, 2 * Math.PI);
    }
    context.stroke();
  }
}

function extremes(peaks: WaveformPeaks, from: number, to: number): [low: number, high: number] {
  let low = 0;
  let high = 0;
  const last = Math.max(Math.floor(from / peaks.stepSeconds), Math.ceil(to / peaks.stepSeconds) - 1);
  for (let step = Math.max(0, Math.floor(from / peaks.stepSeconds)); step <= last; step++) {
    low = Math.min(low, peaks.values[2 * step] ?? 0);
    high = Math.max(high, peaks.values[2 * step + 1] ?? 0);
  }
  return [low, high];
}

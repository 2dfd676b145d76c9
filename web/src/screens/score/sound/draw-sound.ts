import { extremesBetween, type WaveformPeaks } from "@humming-tide/core/music";
import { themeColour } from "../../../ui/theme.ts";
import { LEVEL_LANE, SOUND_LANE } from "../layout/row-size.ts";
import type { SoundBlock } from "./row-sound.ts";
import { LOWEST_SHAPED_DECIBELS } from "./sound-actions.ts";

function prepared(canvas: HTMLCanvasElement, width: number, height: number): CanvasRenderingContext2D | null {
  const context = canvas.getContext("2d");
  if (!context || width === 0) return null;
  canvas.width = Math.round(width * devicePixelRatio);
  canvas.height = Math.round(height * devicePixelRatio);
  context.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0);
  return context;
}

/** Pixels from the upper edge of the level's lane. */
export const levelTop = (decibels: number): number =>
  2 + ((LEVEL_LANE - 4) * Math.min(0, decibels)) / LOWEST_SHAPED_DECIBELS;

export const decibelsAtTop = (pixels: number): number => ((pixels - 2) * LOWEST_SHAPED_DECIBELS) / (LEVEL_LANE - 4);

/** The music's level as the height of water: full where it plays as it is, sunk under speech. */
export function drawLevel(canvas: HTMLCanvasElement, width: number, level: readonly number[]): void {
  const context = prepared(canvas, width, LEVEL_LANE);
  if (!context || level.every((decibels) => decibels > -0.05)) return;
  context.beginPath();
  for (const [i, decibels] of level.entries()) context.lineTo((i / (level.length - 1)) * width, levelTop(decibels));
  context.strokeStyle = themeColour("foam");
  context.lineWidth = 1.4;
  context.stroke();
  context.lineTo(width, LEVEL_LANE);
  context.lineTo(0, LEVEL_LANE);
  context.globalAlpha = 0.16;
  context.fillStyle = themeColour("foam");
  context.fill();
}

/** The waveform of the part of a recording that lies in a row. */
export function drawBlockWave(
  canvas: HTMLCanvasElement,
  width: number,
  block: SoundBlock,
  peaks: WaveformPeaks | undefined,
): void {
  const height = SOUND_LANE - 5;
  const context = prepared(canvas, width, height);
  if (!context || !peaks) return;
  context.fillStyle = themeColour("ink-quiet");
  context.globalAlpha = 0.55;
  const perPixel = (block.soundTo - block.soundFrom) / width;
  for (let x = 0; x < width; x++) {
    const from = block.soundFrom + x * perPixel;
    const [low, high] = extremesBetween(peaks, from, from + perPixel);
    const scale = height / 2 / 127;
    context.fillRect(x, height / 2 - high * scale, 1, Math.max(1, (high - low) * scale));
  }
}

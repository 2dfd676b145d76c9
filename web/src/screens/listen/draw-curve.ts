import type { PlayedSection } from "@humming-tide/core/arrange";
import {
  type Beat,
  type Doubt,
  type EnergyCurve,
  extremesBetween,
  type Stretch,
  type WaveformPeaks,
} from "@humming-tide/core/music";
import { lastOf, present } from "@humming-tide/core/presence";
import type { Marker } from "@humming-tide/core/show";
import { themeColour } from "../../ui/theme.ts";
import { drawMarkers } from "./draw-markers.ts";

export interface CurvePicture {
  readonly from: number;
  readonly to: number;
  readonly playhead: number;
  readonly peaks: WaveformPeaks;
  /** Drawn as a line over the waveform where given. */
  readonly energy: EnergyCurve | null;
  readonly beats: readonly Beat[];
  readonly sections: readonly PlayedSection[];
  readonly doubts: readonly Doubt[];
  readonly landings: readonly number[];
  readonly markers: readonly Marker[];
  readonly chosenMarkerId: string | null;
  /** Staffs of markers down to the grid, and their names: where there is room, close up. */
  readonly isClose: boolean;
  readonly loop: Stretch | null;
  /**
   * Of the show: where the pictures stand so close that frames can be told apart, their edges are
   * drawn.
   */
  readonly frameSeconds: number;
}

/**
 * Beats closer together than this are not drawn one by one; bar starts are, until they too come
 * closer.
 */
const CLOSEST_PIXELS = 5;
/** The strip of beats under the waveform, in which they can be taken hold of. */
export const GRID_HEIGHT = 22;
/** Frames narrower than this are not drawn one by one. */
const NARROWEST_FRAME_PIXELS = 8;
const SECTION_HEIGHT = 18;
/** The face of the page (theme.css). */
const SECTION_FONT = '600 12px "Hanken Grotesk Variable", system-ui, sans-serif';

/**
 * The last still picture of each canvas: while only the playhead moves over it, it is not drawn
 * again.
 */
const backdrops = new WeakMap<HTMLCanvasElement, { key: readonly unknown[]; image: HTMLCanvasElement }>();

/** Draws a stretch of the song: waveform, energy, grid, landings, playhead. */
export function drawCurve(canvas: HTMLCanvasElement, picture: CurvePicture): void {
  const { clientWidth: width, clientHeight: height } = canvas;
  const context = canvas.getContext("2d");
  if (!context || width === 0 || height === 0) return;
  const [pixelWidth, pixelHeight] = [Math.round(width * devicePixelRatio), Math.round(height * devicePixelRatio)];
  if (canvas.width !== pixelWidth || canvas.height !== pixelHeight) {
    [canvas.width, canvas.height] = [pixelWidth, pixelHeight];
  }
  const { from, to, peaks, beats, sections, doubts, landings, markers, chosenMarkerId, loop, frameSeconds } = picture;
  const ink = themeColour("ink");
  const music = [peaks, beats, sections, doubts, landings, markers, chosenMarkerId, loop];
  const key = [from, to, ...music, frameSeconds, pixelWidth, pixelHeight, ink];
  let backdrop = backdrops.get(canvas);
  if (!backdrop || backdrop.key.some((value, i) => value !== key[i])) {
    const image = backdrop?.image ?? document.createElement("canvas");
    [image.width, image.height] = [pixelWidth, pixelHeight];
    drawBackdrop(present(image.getContext("2d")), picture, width, height);
    backdrop = { key, image };
    backdrops.set(canvas, backdrop);
  }
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, pixelWidth, pixelHeight);
  context.drawImage(backdrop.image, 0, 0);
  context.fillStyle = ink;
  const x = Math.round(((picture.playhead - from) / (to - from)) * pixelWidth);
  context.fillRect(x - Math.round(devicePixelRatio), 0, Math.round(2 * devicePixelRatio), pixelHeight);
}

function drawBackdrop(context: CanvasRenderingContext2D, picture: CurvePicture, width: number, height: number): void {
  context.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0);
  const { from, to } = picture;
  const xOf = (seconds: number): number => ((seconds - from) / (to - from)) * width;
  const waveHeight = height - GRID_HEIGHT;
  if (picture.loop) drawLoop(context, picture.loop, xOf, height);
  drawFrames(context, picture, xOf, width, waveHeight);
  drawWave(context, picture, width, waveHeight);
  if (picture.energy) drawEnergy(context, picture.energy, xOf, waveHeight);
  drawGrid(context, picture, xOf, width, height);
  drawDoubts(context, picture.doubts, xOf, waveHeight);
  drawSections(context, picture.sections, xOf, width);
  const { markers, chosenMarkerId, isClose } = picture;
  drawMarkers(context, { markers, chosenMarkerId, xOf, width, staffBottom: isClose ? waveHeight : null });
}

/** The name at the start of each section, and a short stroke down from the top edge. */
function drawSections(
  context: CanvasRenderingContext2D,
  sections: readonly PlayedSection[],
  xOf: (seconds: number) => number,
  width: number,
): void {
  context.font = SECTION_FONT;
  context.textBaseline = "middle";
  for (const { startSeconds, endSeconds, label } of sections) {
    const [left, right] = [xOf(startSeconds), xOf(endSeconds)];
    if (right < 0 || left > width) continue;
    context.fillStyle = themeColour("ink-quiet");
    context.fillRect(Math.round(left), 0, 1, SECTION_HEIGHT);
    context.fillStyle = themeColour("ink");
    // A name that has no room beside its stroke is left to the list of sections.
    if (right - left > context.measureText(label).width + 8)
      context.fillText(label, Math.max(left, 0) + 5, SECTION_HEIGHT / 2);
  }
}

/** Doubtful stretches: a row of dots under the waveform, in the tone of warnings. */
function drawDoubts(
  context: CanvasRenderingContext2D,
  doubts: readonly Doubt[],
  xOf: (seconds: number) => number,
  y: number,
): void {
  context.fillStyle = themeColour("warning");
  for (const { startSeconds, endSeconds } of doubts) {
    const [left, right] = [xOf(startSeconds), Math.max(xOf(endSeconds), xOf(startSeconds) + 4)];
    for (let x = left; x < right; x += 6) {
      context.beginPath();
      context.arc(x + 2, y - 1, 2, 0, 2 * Math.PI);
      context.fill();
    }
  }
}

/** The stretch that is played round and round: a lighter ground between two edges. */
function drawLoop(
  context: CanvasRenderingContext2D,
  { startSeconds, endSeconds }: Stretch,
  xOf: (seconds: number) => number,
  height: number,
): void {
  const [left, right] = [xOf(startSeconds), xOf(endSeconds)];
  context.fillStyle = themeColour("ground-high");
  context.fillRect(left, 0, right - left, height);
  context.fillStyle = themeColour("line-strong");
  context.fillRect(left, 0, 1, height);
  context.fillRect(right - 1, 0, 1, height);
}

function drawFrames(
  context: CanvasRenderingContext2D,
  { from, to, frameSeconds }: CurvePicture,
  xOf: (seconds: number) => number,
  width: number,
  height: number,
): void {
  if ((frameSeconds / (to - from)) * width < NARROWEST_FRAME_PIXELS) return;
  context.fillStyle = themeColour("line");
  for (let frame = Math.max(0, Math.ceil(from / frameSeconds)); frame * frameSeconds < to; frame++) {
    context.fillRect(Math.round(xOf(frame * frameSeconds)), 0, 1, height);
  }
}

const loudestPeaks = new WeakMap<WaveformPeaks, number>();

function loudestPeak(peaks: WaveformPeaks): number {
  let loudest = loudestPeaks.get(peaks);
  if (loudest === undefined) {
    loudest = lastOf(peaks.levels).values.reduce((highest, value) => Math.max(highest, Math.abs(value)), 1);
    loudestPeaks.set(peaks, loudest);
  }
  return loudest;
}

function drawWave(
  context: CanvasRenderingContext2D,
  { peaks, from, to }: CurvePicture,
  width: number,
  height: number,
): void {
  context.fillStyle = themeColour("foam");
  context.globalAlpha = 0.5;
  const step = (to - from) / width;
  const half = height / 2;
  const scale = (half * 0.94) / loudestPeak(peaks);
  for (let x = 0; x < width; x++) {
    if (from + (x + 1) * step <= 0) continue;
    const [low, high] = extremesBetween(peaks, from + x * step, from + (x + 1) * step);
    context.fillRect(x, half - high * scale, 1, Math.max(1, (high - low) * scale));
  }
  context.globalAlpha = 1;
}

function drawEnergy(
  context: CanvasRenderingContext2D,
  energy: EnergyCurve,
  xOf: (seconds: number) => number,
  height: number,
): void {
  const loudest = Math.max(1e-6, ...energy.values);
  // A second of smoothing: the shape of the song, not of its beats.
  const reach = Math.round(1 / energy.stepSeconds);
  context.strokeStyle = themeColour("ink-soft");
  context.lineWidth = 1.5;
  context.beginPath();
  for (let i = 0; i < energy.values.length; i += 2) {
    const piece = energy.values.slice(Math.max(0, i - reach), i + reach + 1);
    const mean = piece.reduce((sum, value) => sum + value, 0) / piece.length;
    context.lineTo(xOf(i * energy.stepSeconds), height - (mean / loudest) * height * 0.9);
  }
  context.stroke();
}

function drawGrid(
  context: CanvasRenderingContext2D,
  picture: CurvePicture,
  xOf: (seconds: number) => number,
  width: number,
  height: number,
): void {
  const { beats, from, to } = picture;
  const visible = beats.filter((beat) => beat.seconds >= from - 0.1 && beat.seconds <= to + 0.1);
  const room = visible.length > 1 ? width / visible.length : width;
  context.strokeStyle = themeColour("foam");
  context.lineWidth = 1.3;
  for (const beat of visible) {
    const x = Math.round(xOf(beat.seconds)) + 0.5;
    context.beginPath();
    if (beat.position === 1) {
      if (room * 4 < CLOSEST_PIXELS) continue;
      context.moveTo(x, height - GRID_HEIGHT + 2);
      context.lineTo(x, height - 3);
      context.lineTo(x + Math.min(7, room), height - 3);
    } else {
      if (room < CLOSEST_PIXELS) continue;
      context.ellipse(x, height - 3, Math.min(11, room / 2.2), 3 + 7 * beat.confidence, 0, Math.PI, 2 * Math.PI);
    }
    context.stroke();
    if (to - from <= 8.5) {
      // Close up, the exact instant is a hairline through the waveform.
      context.globalAlpha = beat.position === 1 ? 0.8 : 0.35;
      context.fillStyle = themeColour("foam");
      context.fillRect(x - 0.5, 0, 1, height - GRID_HEIGHT);
      context.globalAlpha = 1;
    }
  }
  context.fillStyle = themeColour("lantern");
  if (to - from > 30) return;
  for (const landing of picture.landings) {
    if (landing < from || landing > to) continue;
    const x = xOf(landing);
    context.beginPath();
    context.moveTo(x, 4);
    context.bezierCurveTo(x + 3, 9, x + 5, 11, x + 5, 15);
    context.arc(x, 15, 5, 0, Math.PI);
    context.bezierCurveTo(x - 5, 11, x - 3, 9, x, 4);
    context.fill();
  }
}

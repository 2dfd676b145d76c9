import type { ArrangedMusic } from "@humming-tide/core/arrange";
import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { present } from "@humming-tide/core/presence";
import { themeColour } from "../../../ui/theme.ts";
import type { FilmWave } from "../layout/film-wave.ts";

export const CLOSE_UP_SECONDS = 2;
export const CLOSE_UP_HEIGHT = 92;

interface CloseUpPicture {
  readonly plan: FilmPlan;
  readonly music: ArrangedMusic;
  readonly wave: FilmWave;
  /** Of the playhead, in the middle. */
  readonly filmSeconds: number;
}

/**
 * From the top: frames with the pictures that they show, the waveform, and the ground line with
 * beats, accents and landings.
 */
const FRAMES = { top: 0, height: 20 };
const WAVE = { top: 24, height: 40 };
const GROUND = 88;
const FONT = '500 11px "Hanken Grotesk Variable", system-ui, sans-serif';

export function drawCloseUp(canvas: HTMLCanvasElement, width: number, picture: CloseUpPicture): void {
  const context = canvas.getContext("2d");
  if (!context || width === 0) return;
  const [pixelWidth, pixelHeight] = [width * devicePixelRatio, CLOSE_UP_HEIGHT * devicePixelRatio].map(Math.round) as [
    number,
    number,
  ];
  if (canvas.width !== pixelWidth) canvas.width = pixelWidth;
  if (canvas.height !== pixelHeight) canvas.height = pixelHeight;
  context.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0);
  context.clearRect(0, 0, width, CLOSE_UP_HEIGHT);
  context.font = FONT;
  const from = picture.filmSeconds - CLOSE_UP_SECONDS / 2;
  const xOf = (seconds: number): number => ((seconds - from) / CLOSE_UP_SECONDS) * width;
  const isSeen = (seconds: number): boolean => seconds > from - 0.1 && seconds < from + CLOSE_UP_SECONDS + 0.1;
  drawFrames(context, picture, xOf, width);
  drawWave(context, picture, from, width);
  drawMusic(context, picture, xOf, isSeen);
  for (const slot of picture.plan.slots) {
    if (slot.landing && isSeen(slot.landing.seconds)) drawLanding(context, picture, slot, xOf);
  }
  context.fillStyle = themeColour("ink");
  context.fillRect(Math.round(width / 2) - 1, 0, 2, CLOSE_UP_HEIGHT);
}

type XOf = (seconds: number) => number;

/** Each frame a cell; where two pictures are seen the curve of the tide runs over them. */
function drawFrames(context: CanvasRenderingContext2D, { plan }: CloseUpPicture, xOf: XOf, width: number): void {
  const frameSeconds = plan.rate.den / plan.rate.num;
  context.textBaseline = "middle";
  for (const slot of plan.slots) {
    const [left, right] = [xOf(slot.startFrame * frameSeconds), xOf(slot.endFrame * frameSeconds)];
    if (right < 0 || left > width) continue;
    context.fillStyle = themeColour(slot.index % 2 === 0 ? "ground-high" : "line");
    context.fillRect(left, FRAMES.top, right - left, FRAMES.height);
    context.save();
    context.beginPath();
    context.rect(Math.max(0, left), FRAMES.top, right - Math.max(0, left), FRAMES.height);
    context.clip();
    context.fillStyle = themeColour("ink-soft");
    context.fillText(`${slot.index + 1}  ${slot.name}`, Math.max(0, left) + 6, FRAMES.top + FRAMES.height / 2 + 1);
    context.restore();
  }
  const first = Math.max(
    0,
    Math.floor(plan.totalFrames * frameSeconds > 0 ? -xOf(0) / (xOf(frameSeconds) - xOf(0)) : 0),
  );
  context.fillStyle = themeColour("line-strong");
  context.globalAlpha = 0.55;
  for (let frame = first; frame <= plan.totalFrames; frame++) {
    const x = xOf(frame * frameSeconds);
    if (x > width) break;
    context.fillRect(Math.round(x), FRAMES.top + FRAMES.height - 5, 1, 5);
  }
  context.globalAlpha = 1;
  context.strokeStyle = themeColour("ink");
  context.lineWidth = 1.4;
  for (const { transitionIn } of plan.slots) {
    if (transitionIn.kind === "cut") continue;
    const [left, right] = [xOf(transitionIn.startFrame * frameSeconds), xOf(transitionIn.endFrame * frameSeconds)];
    if (right < 0 || left > width) continue;
    const [bottom, top, third] = [FRAMES.top + FRAMES.height, FRAMES.top + 3, (right - left) / 3];
    context.beginPath();
    context.moveTo(left, bottom);
    context.bezierCurveTo(left + third, bottom, left + third, top, (left + right) / 2, top);
    context.bezierCurveTo(right - third, top, right - third, bottom, right, bottom);
    context.stroke();
  }
}

function drawWave(
  context: CanvasRenderingContext2D,
  { wave, plan }: CloseUpPicture,
  from: number,
  width: number,
): void {
  const step = CLOSE_UP_SECONDS / width;
  const middle = WAVE.top + WAVE.height / 2;
  const scale = WAVE.height / 2 / 127;
  const end = plan.sound.lengthSeconds;
  context.fillStyle = themeColour("foam");
  context.globalAlpha = 0.5;
  for (let x = 0; x < width; x++) {
    const at = from + x * step;
    if (at < 0 || at > end) continue;
    const [low, high] = wave(at, at + step);
    context.fillRect(x, middle - high * scale, 1, Math.max(1, (high - low) * scale));
  }
  context.globalAlpha = 1;
}

/** The true onsets: beats as ripples, bar starts as strokes with a foot, accents as sparks. */
function drawMusic(
  context: CanvasRenderingContext2D,
  { music }: CloseUpPicture,
  xOf: XOf,
  isSeen: (seconds: number) => boolean,
): void {
  context.strokeStyle = themeColour("foam");
  context.fillStyle = themeColour("foam");
  context.lineWidth = 1.4;
  for (const beat of music.grid.beats) {
    if (!isSeen(beat.seconds)) continue;
    const x = Math.round(xOf(beat.seconds)) + 0.5;
    context.beginPath();
    context.moveTo(x, WAVE.top);
    context.lineTo(x, GROUND);
    if (beat.position === 1) context.lineTo(x + 6, GROUND);
    context.stroke();
    if (beat.position === 1) continue;
    context.beginPath();
    context.ellipse(x, GROUND, 9, 2 + 6 * beat.confidence, 0, Math.PI, 2 * Math.PI);
    context.stroke();
  }
  for (const { seconds, strength } of music.accents) {
    if (!isSeen(seconds)) continue;
    const x = xOf(seconds);
    const half = 2 + 2.5 * strength;
    context.beginPath();
    context.moveTo(x, WAVE.top - half * 1.6);
    context.lineTo(x + half, WAVE.top);
    context.lineTo(x, WAVE.top + half * 1.6);
    context.lineTo(x - half, WAVE.top);
    context.fill();
  }
}

/** The landing's drop, the first frame that is meant to hit it, and how far that is off. */
function drawLanding(context: CanvasRenderingContext2D, { plan }: CloseUpPicture, slot: FilmSlot, xOf: XOf): void {
  const frameSeconds = plan.rate.den / plan.rate.num;
  const [landing, shown] = [
    xOf(present(slot.landing).seconds),
    xOf((slot.startFrame + plan.leadFrames) * frameSeconds),
  ];
  context.fillStyle = themeColour(slot.locked ? "heather" : "lantern");
  context.fillRect(Math.round(xOf(slot.startFrame * frameSeconds)), FRAMES.top, 2, FRAMES.height + 4);
  context.beginPath();
  context.moveTo(landing, GROUND - 22);
  context.bezierCurveTo(landing + 5, GROUND - 15, landing + 6, GROUND - 12, landing + 6, GROUND - 8);
  context.arc(landing, GROUND - 8, 6, 0, Math.PI);
  context.bezierCurveTo(landing - 6, GROUND - 12, landing - 5, GROUND - 15, landing, GROUND - 22);
  context.fill();
  context.fillRect(Math.min(landing, shown), GROUND - 25, Math.max(1, Math.abs(shown - landing)), 2);
  const text = `${present(slot.landingErrorMs) > 0 ? "+" : ""}${present(slot.landingErrorMs).toFixed(1)} ms`;
  const textWidth = context.measureText(text).width;
  context.fillStyle = themeColour("ground");
  context.globalAlpha = 0.8;
  context.fillRect(landing + 9, GROUND - 20, textWidth + 6, 15);
  context.globalAlpha = 1;
  context.fillStyle = themeColour("ink");
  context.textBaseline = "middle";
  context.fillText(text, landing + 12, GROUND - 12);
}

import type { Placement, PlannedWords, Rectangle, Scratch, Size, Surface2D } from "../picture/index.ts";
import type { Point } from "../values/index.ts";
import { BACKING_PADDING, BACKING_SOFTNESS } from "./default-words.ts";
import type { LaidGlyph, LaidWords } from "./lay-words.ts";
import type { Outline, PaintFill } from "./shaper.ts";

/** What lies behind letters. */
type Behind = Pick<PlannedWords, "outline" | "shadow" | "backing">;

/** Widths in ems of the main letters. */
const WIDEST_OUTLINE = 0.16;
const SHADOW_DROP = 0.03;
/** The shadow is cast by letters so much fatter. */
const SHADOW_GROWTH = 0.045;
const SHADOW_SOFTNESS = 0.12;
const DARKEST_SHADOW = 0.92;
const SURROUNDINGS = 0.14;

/** A clear canvas of so many pixels. */
export type MakeCanvas<Image> = (width: number, height: number) => Scratch<Image>;

/**
 * What words cover when they are drawn, with everything around the letters; in pixels of the film.
 */
export function inkOf({ lines, bounds, ornament, pixels }: LaidWords, behind: Behind): Rectangle {
  let [left, top, right, bottom] = [bounds.x, bounds.y, bounds.x + bounds.width, bounds.y + bounds.height];
  const take = (x: number, y: number): void => {
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  };
  for (const { glyphs } of lines)
    for (const { outline, x, y, pixels: em } of glyphs)
      for (const step of outline) {
        for (let i = 1; i + 1 < step.length; i += 2)
          take(x + em * (step[i] as number), y + em * (step[i + 1] as number));
      }
  for (const { x, y } of ornament.flat()) take(x, y);
  const around =
    pixels *
    Math.max(
      0.1,
      behind.outline ? WIDEST_OUTLINE * behind.outline.width : 0,
      behind.shadow > 0 ? SHADOW_DROP + SHADOW_GROWTH + 3 * SHADOW_SOFTNESS : 0,
      behind.backing ? BACKING_PADDING + 3 * BACKING_SOFTNESS : 0,
    );
  return { x: left - around, y: top - around, width: right - left + 2 * around, height: bottom - top + 2 * around };
}

/**
 * Draws words in their place on a canvas: what lies behind the letters, then the letters. Only
 * paths and images that are made larger, so every canvas draws the same. Some milliseconds, which
 * is why words are drawn once and kept.
 */
export function drawLaidWords<Image>(
  canvas: Scratch<Image>,
  laid: LaidWords,
  words: Behind & Pick<PlannedWords, "colour">,
  placement: Placement,
  makeCanvas: MakeCanvas<Image>,
): void {
  drawBehindLetters(canvas, laid, words, placement, makeCanvas);
  const { surface } = canvas;
  for (const { glyphs, colour } of laid.lines) {
    surface.beginPath();
    for (const glyph of glyphs) traceOutline(surface, glyph.outline, glyphPlacement(glyph, placement));
    surface.fillStyle = colour;
    surface.fill();
    for (const glyph of glyphs) drawPaints(surface, glyph, placement);
  }
  surface.beginPath();
  for (const shape of laid.ornament) traceShape(surface, shape, placement);
  surface.fillStyle = words.colour;
  surface.fill();
}

/** Backing, shadow and outline of words. */
export function drawBehindLetters<Image>(
  { surface, width, height }: Scratch<Image>,
  laid: LaidWords,
  { outline, shadow, backing }: Behind,
  placement: Placement,
  makeCanvas: MakeCanvas<Image>,
): void {
  const em = laid.pixels * placement.scale;
  const size = { width, height };
  if (backing && backing.strength > 0)
    drawSoft(surface, size, BACKING_SOFTNESS * em, backing.strength, placement, makeCanvas, (on, at) => {
      const by = BACKING_PADDING * laid.pixels;
      const { x, y, width: wide, height: high } = laid.bounds;
      on.fillStyle = backing.colour;
      on.beginPath();
      const [left, top, right, bottom] = [x - by, y - by, x + wide + by, y + high + by];
      const corners = [
        { x: left, y: top },
        { x: right, y: top },
        { x: right, y: bottom },
        { x: left, y: bottom },
      ];
      traceShape(on, corners, at);
      on.fill();
    });
  if (shadow > 0) {
    const below = { ...placement, y: placement.y + SHADOW_DROP * em };
    drawSoft(surface, size, SHADOW_SOFTNESS * em, DARKEST_SHADOW * shadow, below, makeCanvas, (on, at) =>
      drawFat(on, laid, 2 * SHADOW_GROWTH, "#000000", at),
    );
  }
  if (outline && outline.width > 0) {
    surface.lineJoin = "round";
    surface.strokeStyle = outline.colour;
    surface.lineWidth = WIDEST_OUTLINE * outline.width * em;
    traceLetters(surface, laid, placement);
    surface.stroke();
  }
}

/** The letters with what an eye sees closely around them: where their contrast counts. */
export function drawLetterSurroundings<Image>(surface: Surface2D<Image>, laid: LaidWords, placement: Placement): void {
  drawFat(surface, laid, SURROUNDINGS, "#ffffff", placement);
}

function drawFat<Image>(
  surface: Surface2D<Image>,
  laid: LaidWords,
  growth: number,
  colour: string,
  placement: Placement,
): void {
  surface.fillStyle = colour;
  surface.strokeStyle = colour;
  surface.lineJoin = "round";
  surface.lineWidth = growth * laid.pixels * placement.scale;
  traceLetters(surface, laid, placement);
  surface.stroke();
  surface.fill();
}

function traceLetters<Image>(surface: Surface2D<Image>, { lines, ornament }: LaidWords, placement: Placement): void {
  surface.beginPath();
  for (const { glyphs } of lines)
    for (const glyph of glyphs) traceOutline(surface, glyph.outline, glyphPlacement(glyph, placement));
  for (const shape of ornament) traceShape(surface, shape, placement);
}

/** Edges are soft over about four times this many pixels of the smallest picture. */
const PIXELS_OF_SOFTNESS = 1.4;

/**
 * Draws something with soft edges: much smaller first, then twice as large again and again, which
 * is as smooth as a blur and quick, and the same on every canvas. `softness`: about a quarter of
 * how wide the edges are, in pixels.
 */
function drawSoft<Image>(
  surface: Surface2D<Image>,
  { width, height }: Size,
  softness: number,
  alpha: number,
  placement: Placement,
  makeCanvas: MakeCanvas<Image>,
  draw: (on: Surface2D<Image>, at: Placement) => void,
): void {
  const doublings = Math.max(0, Math.round(Math.log2(softness / PIXELS_OF_SOFTNESS)));
  const factor = 2 ** doublings;
  let soft = makeCanvas(Math.ceil(width / factor), Math.ceil(height / factor));
  draw(soft.surface, { scale: placement.scale / factor, x: placement.x / factor, y: placement.y / factor });
  for (let doubling = 0; doubling < doublings; doubling++) {
    const larger = makeCanvas(2 * soft.width, 2 * soft.height);
    larger.surface.imageSmoothingEnabled = true;
    larger.surface.imageSmoothingQuality = "medium";
    larger.surface.drawImage(soft.image, 0, 0, soft.width, soft.height, 0, 0, larger.width, larger.height);
    soft = larger;
  }
  surface.globalAlpha = alpha;
  surface.drawImage(soft.image, 0, 0, soft.width, soft.height, 0, 0, soft.width, soft.height);
  surface.globalAlpha = 1;
}

function traceShape<Image>(
  surface: Surface2D<Image>,
  shape: readonly Point[],
  { scale, x: dx, y: dy }: Placement,
): void {
  for (const [i, { x, y }] of shape.entries()) {
    if (i === 0) surface.moveTo(scale * x + dx, scale * y + dy);
    else surface.lineTo(scale * x + dx, scale * y + dy);
  }
  surface.closePath();
}

const glyphPlacement = ({ x, y, pixels }: LaidGlyph, { scale, x: dx, y: dy }: Placement): Placement => ({
  scale: scale * pixels,
  x: scale * x + dx,
  y: scale * y + dy,
});

function traceOutline<Image>(surface: Surface2D<Image>, outline: Outline, { scale, x, y }: Placement): void {
  for (const step of outline) {
    switch (step[0]) {
      case "M":
        surface.moveTo(scale * step[1] + x, scale * step[2] + y);
        break;
      case "L":
        surface.lineTo(scale * step[1] + x, scale * step[2] + y);
        break;
      case "Q":
        surface.quadraticCurveTo(scale * step[1] + x, scale * step[2] + y, scale * step[3] + x, scale * step[4] + y);
        break;
      case "C":
        surface.bezierCurveTo(
          scale * step[1] + x,
          scale * step[2] + y,
          scale * step[3] + x,
          scale * step[4] + y,
          scale * step[5] + x,
          scale * step[6] + y,
        );
        break;
      case "Z":
        surface.closePath();
        break;
    }
  }
}

/** The colours of an emoji. */
function drawPaints<Image>(surface: Surface2D<Image>, glyph: LaidGlyph, placement: Placement): void {
  if (!glyph.paints) return;
  const at = glyphPlacement(glyph, placement);
  for (const { outline, fill } of glyph.paints) {
    surface.beginPath();
    traceOutline(surface, outline, at);
    surface.fillStyle = paintStyle(surface, fill, at);
    surface.fill();
  }
}

function paintStyle<Image>(surface: Surface2D<Image>, fill: PaintFill, { scale, x, y }: Placement): unknown {
  if (fill.kind === "colour") return fill.colour;
  const at = (px: number, py: number): [number, number] => [scale * px + x, scale * py + y];
  const slope =
    fill.kind === "linear"
      ? surface.createLinearGradient(...at(...fill.from), ...at(...fill.to))
      : surface.createRadialGradient(
          ...at(fill.from[0], fill.from[1]),
          scale * fill.from[2],
          ...at(fill.to[0], fill.to[1]),
          scale * fill.to[2],
        );
  for (const { at: share, colour } of fill.stops) slope.addColorStop(share, colour);
  return slope;
}

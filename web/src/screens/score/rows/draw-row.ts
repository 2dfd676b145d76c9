import { type ArrangedMusic, sectionNames } from "@humming-tide/core/arrange";
import { itemAt } from "@humming-tide/core/presence";
import { PENNANT_HEIGHT, PENNANT_WIDTH, pennant } from "../../../ui/pennant.ts";
import { themeColour } from "../../../ui/theme.ts";
import type { FilmWave } from "../layout/film-wave.ts";
import { GRID_HEIGHT, musicHeight, type RowSize } from "../layout/row-size.ts";
import { beatsOfRow, placeAt, rowEdges, type ScoreLayout, type ScoreRow, timeAt } from "../layout/score-layout.ts";

interface RowPicture {
  readonly row: ScoreRow;
  readonly layout: ScoreLayout;
  readonly size: RowSize;
  readonly music: ArrangedMusic;
  readonly wave: FilmWave;
  readonly fadeStartSeconds: number;
  readonly filmSeconds: number;
}

const SECTION_FONT = '600 11px "Hanken Grotesk Variable", system-ui, sans-serif';
const NAME_FONT = '500 10px "Hanken Grotesk Variable", system-ui, sans-serif';
/** Where the waveform begins. */
const TOP = 4;
/** A marker's name with less room than this is left to Listen. */
const SHORTEST_NAME_PIXELS = 26;

/**
 * Draws what a row's music is like, from the top: waveform with sections, accents and beats, and
 * the pennants of markers.
 */
export function drawRow(canvas: HTMLCanvasElement, width: number, picture: RowPicture): void {
  const height = musicHeight(picture.size);
  const context = canvas.getContext("2d");
  if (!context || width === 0) return;
  canvas.width = Math.round(width * devicePixelRatio);
  canvas.height = Math.round(height * devicePixelRatio);
  context.setTransform(devicePixelRatio, 0, 0, devicePixelRatio, 0, 0);
  const gridBottom = TOP + picture.size.wave + GRID_HEIGHT - 6;
  drawWave(context, picture, width);
  drawBeats(context, picture, width, gridBottom);
  drawAccents(context, picture, width, gridBottom);
  drawSections(context, picture, width, gridBottom);
  drawMarkers(context, picture, width, gridBottom);
}

function drawWave(context: CanvasRenderingContext2D, picture: RowPicture, width: number): void {
  const { row, layout, size, wave, fadeStartSeconds, filmSeconds } = picture;
  const [first, last] = rowEdges(row);
  const middle = TOP + size.wave / 2;
  context.fillStyle = themeColour("foam");
  context.globalAlpha = 0.5;
  for (let x = Math.floor(first * width); x < last * width; x++) {
    const from = timeAt(layout, row.index, x / width);
    if (from >= Math.min(row.endSeconds, filmSeconds)) break;
    const [low, high] = wave(from, timeAt(layout, row.index, (x + 1) / width));
    const isFading = from > fadeStartSeconds;
    const fade = isFading ? Math.max(0, 1 - (from - fadeStartSeconds) / (filmSeconds - fadeStartSeconds)) : 1;
    const scale = (size.wave / 2 / 127) * fade;
    context.fillRect(x, middle - high * scale, 1, Math.max(1, (high - low) * scale));
  }
  context.globalAlpha = 1;
}

/** Beats as ripples as high as they are sure, bar starts as strokes with a foot. */
function drawBeats(
  context: CanvasRenderingContext2D,
  { row, layout }: RowPicture,
  width: number,
  bottom: number,
): void {
  const foam = themeColour("foam");
  const quiet = themeColour("line-strong");
  context.lineWidth = 1.3;
  for (const { beat, share } of beatsOfRow(layout, row.index)) {
    const x = Math.round(share * width) + 0.5;
    context.strokeStyle = beat.imagined ? quiet : foam;
    context.beginPath();
    if (beat.position === 1) {
      context.moveTo(x, TOP - 2);
      context.lineTo(x, bottom);
      context.lineTo(x + 5, bottom);
    } else {
      const height = beat.imagined ? 1.5 : 2 + 4.5 * beat.confidence;
      context.ellipse(x, bottom, 6.5, height, 0, Math.PI, 2 * Math.PI);
    }
    context.stroke();
  }
}

/** An accent is a spark over the grid, as large as it is strong. */
function drawAccents(context: CanvasRenderingContext2D, picture: RowPicture, width: number, bottom: number): void {
  context.fillStyle = themeColour("foam");
  for (const { seconds, strength } of inRow(picture, picture.music.accents)) {
    const x = xOf(picture, seconds, width);
    const half = 1.5 + 2 * strength;
    const y = bottom - 10;
    context.beginPath();
    context.moveTo(x, y - half * 1.6);
    context.lineTo(x + half, y);
    context.lineTo(x, y + half * 1.6);
    context.lineTo(x - half, y);
    context.fill();
  }
}

/** A section begins with a stroke over the whole music and its name. */
function drawSections(context: CanvasRenderingContext2D, picture: RowPicture, width: number, bottom: number): void {
  context.font = SECTION_FONT;
  context.textBaseline = "top";
  const names = sectionNames(picture.music.sections);
  const sections = picture.music.sections.map(({ startSeconds: seconds }, i) => ({ seconds, name: itemAt(names, i) }));
  for (const { seconds, name } of inRow(picture, sections)) {
    const x = Math.round(xOf(picture, seconds, width));
    context.fillStyle = themeColour("foam");
    context.fillRect(x - 0.5, 0, 2, bottom);
    if (!name) continue;
    const textWidth = context.measureText(name).width;
    context.fillStyle = themeColour("ground");
    context.fillRect(x + 2, 0, textWidth + 6, 14);
    context.fillStyle = themeColour("foam");
    context.fillText(name, x + 5, 1);
  }
}

function drawMarkers(context: CanvasRenderingContext2D, picture: RowPicture, width: number, bottom: number): void {
  const markers = inRow(picture, picture.music.markers);
  const top = bottom + 4;
  context.font = NAME_FONT;
  context.textBaseline = "middle";
  for (const [i, marker] of markers.entries()) {
    const x = Math.round(xOf(picture, marker.seconds, width));
    const { outline, fill } = pennant(marker);
    context.save();
    context.translate(x + 0.5, top + 0.5);
    context.fillStyle = themeColour("foam");
    context.strokeStyle = themeColour("foam");
    context.lineWidth = 1.2;
    context.lineJoin = "round";
    context.fill(new Path2D(fill));
    context.stroke(new Path2D(outline));
    context.globalAlpha = 0.7;
    context.fillRect(-0.5, -top, 1, top);
    context.restore();
    const next = markers[i + 1];
    const room = (next ? xOf(picture, next.seconds, width) : width) - x - PENNANT_WIDTH - 8;
    if (marker.name === "" || room < SHORTEST_NAME_PIXELS) continue;
    context.save();
    context.beginPath();
    context.rect(x + PENNANT_WIDTH + 4, top - 3, room, PENNANT_HEIGHT + 6);
    context.clip();
    context.fillStyle = themeColour("ink-soft");
    context.fillText(marker.name, x + PENNANT_WIDTH + 4, top + PENNANT_HEIGHT / 2 + 1);
    context.restore();
  }
}

const inRow = <Item extends { readonly seconds: number }>({ row }: RowPicture, items: readonly Item[]): Item[] =>
  items.filter(({ seconds }) => seconds >= row.startSeconds - 1e-6 && seconds < row.endSeconds - 1e-6);

const xOf = ({ layout, row }: RowPicture, seconds: number, width: number): number => {
  const place = placeAt(layout, seconds + 1e-6);
  return (place.row < row.index ? rowEdges(row)[0] : place.share) * width;
};

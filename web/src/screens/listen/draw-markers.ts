import type { Marker } from "@humming-tide/core/show";
import { PENNANT_HEIGHT, PENNANT_WIDTH, pennant } from "../../ui/pennant.ts";
import { themeColour } from "../../ui/theme.ts";

/** The strip in which the flags fly, under the letters of the sections. */
export const MARKER_TOP = 20;
export const MARKER_BOTTOM = MARKER_TOP + PENNANT_HEIGHT + 3;
const NAME_FONT = '500 11px "Hanken Grotesk Variable", system-ui, sans-serif';
/** A name with less room than this is left to the list. */
const SHORTEST_NAME_PIXELS = 28;

interface MarkersPicture {
  readonly markers: readonly Marker[];
  readonly chosenMarkerId: string | null;
  readonly xOf: (seconds: number) => number;
  readonly width: number;
  /** How far down the staffs reach; null: only the flags, as on the whole song. */
  readonly staffBottom: number | null;
}

/**
 * A flag for each marker; where they stand too close for flags, a short stroke, at most one a
 * pixel. The chosen one is drawn last, in the colour of the text. O(markers).
 */
export function drawMarkers(context: CanvasRenderingContext2D, picture: MarkersPicture): void {
  const { markers, chosenMarkerId, xOf, width, staffBottom } = picture;
  const visible = markers.filter(({ seconds }) => xOf(seconds) > -PENNANT_WIDTH && xOf(seconds) < width);
  let lastStroke = -1;
  context.font = NAME_FONT;
  context.textBaseline = "middle";
  for (const [i, marker] of visible.entries()) {
    const x = Math.round(xOf(marker.seconds));
    const next = visible[i + 1];
    const room = (next ? xOf(next.seconds) : width) - x;
    context.fillStyle = themeColour("foam");
    if (room < PENNANT_WIDTH + 1 && next) {
      context.globalAlpha = 0.6;
      if (x !== lastStroke) context.fillRect(x, MARKER_TOP, 1, PENNANT_HEIGHT);
      context.globalAlpha = 1;
      lastStroke = x;
      continue;
    }
    drawPennant(context, marker, x, staffBottom);
    if (staffBottom !== null && marker.name !== "") drawName(context, marker.name, x, room);
  }
  const chosen = visible.find(({ id }) => id === chosenMarkerId);
  if (chosen) {
    context.fillStyle = themeColour("ink");
    drawPennant(context, chosen, Math.round(xOf(chosen.seconds)), staffBottom);
  }
}

/** In the fill colour of the context. */
function drawPennant(context: CanvasRenderingContext2D, marker: Marker, x: number, staffBottom: number | null): void {
  const { outline, fill } = pennant(marker);
  context.save();
  context.translate(x + 0.5, MARKER_TOP + 0.5);
  context.strokeStyle = context.fillStyle;
  context.lineWidth = 1.3;
  context.lineJoin = "round";
  context.fill(new Path2D(fill));
  context.stroke(new Path2D(outline));
  context.globalAlpha = 0.7;
  context.fillRect(-0.5, 0, 1, (staffBottom ?? MARKER_TOP + PENNANT_HEIGHT + 4) - MARKER_TOP);
  context.restore();
}

function drawName(context: CanvasRenderingContext2D, name: string, x: number, room: number): void {
  const left = x + PENNANT_WIDTH + 5;
  const space = room - PENNANT_WIDTH - 10;
  if (space < SHORTEST_NAME_PIXELS) return;
  context.save();
  context.beginPath();
  context.rect(left, MARKER_TOP - 4, space, PENNANT_HEIGHT + 8);
  context.clip();
  context.fillStyle = themeColour("ink-soft");
  context.fillText(name, left, MARKER_TOP + PENNANT_HEIGHT / 2 + 1);
  context.restore();
}

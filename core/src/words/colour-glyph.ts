import { type ColorLine, type Font, PaintFuncs } from "harfbuzzjs";
import { itemAt, lastOf } from "../presence/index.ts";
import type { Outline, OutlineStep, Paint, PaintFill, PaintStop } from "./shaper.ts";

/**
 * Coloured glyphs as plain shapes (OpenType 1.9, COLR version 1). HarfBuzz walks the glyph's paint
 * graph; of it shapes, plain colours, linear and radial gradients are kept. That is all that the
 * emoji font has, but for two things: blended groups are laid over each other, and gradients that
 * are no circles become circles.
 */

/** x' = xx x + xy y + dx, y' = yx x + yy y + dy. */
interface Affine {
  readonly xx: number;
  readonly yx: number;
  readonly xy: number;
  readonly yy: number;
  readonly dx: number;
  readonly dy: number;
}
const IDENTITY: Affine = { xx: 1, yx: 0, xy: 0, yy: 1, dx: 0, dy: 0 };

const compose = (outer: Affine, inner: Affine): Affine => ({
  xx: outer.xx * inner.xx + outer.xy * inner.yx,
  yx: outer.yx * inner.xx + outer.yy * inner.yx,
  xy: outer.xx * inner.xy + outer.xy * inner.yy,
  yy: outer.yx * inner.xy + outer.yy * inner.yy,
  dx: outer.xx * inner.dx + outer.xy * inner.dy + outer.dx,
  dy: outer.yx * inner.dx + outer.yy * inner.dy + outer.dy,
});

/** Font units, y upwards, to ems, y downwards. */
export const emAffine = (unitsPerEm: number): Affine => ({ ...IDENTITY, xx: 1 / unitsPerEm, yy: -1 / unitsPerEm });

const moved = ({ xx, xy, yx, yy, dx, dy }: Affine, x: number, y: number): [number, number] => [
  xx * x + xy * y + dx,
  yx * x + yy * y + dy,
];

/** An outline of a glyph, every point moved. */
export function outlineOf(font: Font, glyph: number, affine: Affine): Outline {
  return font.glyphToJson(glyph).map(({ type, values }): OutlineStep => {
    const points: number[] = [];
    for (let i = 0; i + 1 < values.length; i += 2)
      points.push(...moved(affine, itemAt(values, i), itemAt(values, i + 1)));
    return [type, ...points] as unknown as OutlineStep;
  });
}

interface Walk {
  readonly font: Font;
  readonly paints: Paint[];
  readonly affines: Affine[];
  readonly clips: (Outline | null)[];
}

/** The paints of a glyph from the bottom up; null where it has no colours of its own. */
export function paintsOf(font: Font, glyph: number, unitsPerEm: number): Paint[] | null {
  const walk: Walk = { font, paints: [], affines: [emAffine(unitsPerEm)], clips: [] };
  return font.paintGlyphOrFail(glyph, walker(), walk) ? walk.paints : null;
}

let made: PaintFuncs | null = null;

/** One set of callbacks for all glyphs; each tells its walk by the data that comes with it. */
function walker(): PaintFuncs {
  if (made) return made;
  const funcs = new PaintFuncs();
  const top = (walk: Walk): Affine => lastOf(walk.affines);
  const paint = (walk: Walk, fill: PaintFill): void => {
    const outline = walk.clips.findLast((clip) => clip !== null);
    if (outline) walk.paints.push({ outline, fill });
  };
  funcs.setPushTransformFunc((xx, yx, xy, yy, dx, dy, data) => {
    const walk = data as Walk;
    walk.affines.push(compose(top(walk), { xx, yx, xy, yy, dx, dy }));
  });
  funcs.setPopTransformFunc((data) => void (data as Walk).affines.pop());
  funcs.setPushClipGlyphFunc((glyph, _font, data) => {
    const walk = data as Walk;
    walk.clips.push(outlineOf(walk.font, glyph, top(walk)));
  });
  // Rectangles only bound what is drawn inside them anyway.
  funcs.setPushClipRectangleFunc((_x0, _y0, _x1, _y1, data) => void (data as Walk).clips.push(null));
  funcs.setPopClipFunc((data) => void (data as Walk).clips.pop());
  funcs.setColorFunc((_isForeground, { red, green, blue, alpha }, data) =>
    paint(data as Walk, { kind: "colour", colour: cssColour(red, green, blue, alpha) }),
  );
  funcs.setLinearGradientFunc((line, x0, y0, x1, y1, x2, y2, data) => {
    const walk = data as Walk;
    const [from, to, side] = [moved(top(walk), x0, y0), moved(top(walk), x1, y1), moved(top(walk), x2, y2)];
    // The slope runs square to the line from p0 to p2 (OpenType, PaintLinearGradient).
    const along = [side[1] - from[1], from[0] - side[0]] as const;
    const length = along[0] ** 2 + along[1] ** 2;
    const share = length === 0 ? 0 : ((to[0] - from[0]) * along[0] + (to[1] - from[1]) * along[1]) / length;
    const end: [number, number] = length === 0 ? to : [from[0] + share * along[0], from[1] + share * along[1]];
    paint(walk, { kind: "linear", from, to: end, stops: stopsOf(line) });
  });
  funcs.setRadialGradientFunc((line, x0, y0, r0, x1, y1, r1, data) => {
    const walk = data as Walk;
    const { xx, xy, yx, yy } = top(walk);
    const scale = Math.sqrt(Math.abs(xx * yy - xy * yx));
    paint(walk, {
      kind: "radial",
      from: [...moved(top(walk), x0, y0), r0 * scale],
      to: [...moved(top(walk), x1, y1), r1 * scale],
      stops: stopsOf(line),
    });
  });
  made = funcs;
  return funcs;
}

const cssColour = (red: number, green: number, blue: number, alpha: number): string =>
  `rgba(${red}, ${green}, ${blue}, ${Math.round((alpha / 255) * 1000) / 1000})`;

/** In order, held within 0 and 1 as canvases want it. */
function stopsOf({ colorStops }: ColorLine): PaintStop[] {
  return colorStops
    .map(({ offset, color }) => ({
      at: Math.min(1, Math.max(0, offset)),
      colour: cssColour(color.red, color.green, color.blue, color.alpha),
    }))
    .sort((a, b) => a.at - b.at);
}

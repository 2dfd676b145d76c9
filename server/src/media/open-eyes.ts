import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { luma } from "@humming-tide/core/numeric";
import { Cascade, type CascadeFile, type GreyPicture } from "@humming-tide/core/photo-analysis";
import type { FoundFace } from "@humming-tide/core/picture";
import type { FaceRaster } from "./turned-parts.ts";

/** Eyes that are nearer to each other than this, in pixels, are too small to tell. */
const LEAST_DISTANCE = 16;
/** Of so many faces, the surest ones, the eyes are looked at. */
const MOST_FACES = 4;
/** The square around an eye, as wide as the eyes are apart, is looked at in these sizes. */
const SIDES = [56, 44, 34] as const;
/** Fewer windows with an open eye than this, both eyes together, and they seem closed. */
const LEAST_WINDOWS = 10;

let cascade: Cascade | null = null;

/** The eye finder that ships with core, read on first use. */
function shippedCascade(): Cascade {
  const file = createRequire(import.meta.url).resolve("@humming-tide/core/eye-cascade.json");
  return (cascade ??= new Cascade(JSON.parse(readFileSync(file, "utf8")) as CascadeFile));
}

/**
 * The faces with whether their eyes seem open, where that can be told. The finder of eyes knows
 * open ones: it fires in many windows around them, and hardly ever around closed ones. Some 0.05 s
 * of a processor a face.
 */
export function withOpenEyes(faces: readonly FoundFace[], raster: FaceRaster): FoundFace[] {
  return faces.map((face, i) => {
    if (i >= MOST_FACES || face.turn !== 0 || !face.eyes) return face;
    const places = face.eyes.map(({ x, y }) => ({ x: x * raster.width, y: y * raster.height }));
    const [left, right] = places as [(typeof places)[0], (typeof places)[0]];
    const distance = Math.hypot(right.x - left.x, right.y - left.y);
    if (!(distance >= LEAST_DISTANCE)) return face;
    const windows = places.reduce((sum, place) => sum + openWindows(raster, place, distance), 0);
    return { ...face, eyesOpen: windows >= LEAST_WINDOWS };
  });
}

const openWindows = (raster: FaceRaster, place: { x: number; y: number }, distance: number): number =>
  SIDES.reduce(
    (sum, side) => sum + shippedCascade().passingWindows(patchAround(raster, place, distance, side)).length,
    0,
  );

/**
 * A square of the picture in grey, drawn anew in another size; beyond the edge it goes on evenly.
 */
function patchAround(
  { width, height, pixels }: FaceRaster,
  { x, y }: { x: number; y: number },
  size: number,
  side: number,
): GreyPicture {
  const patch = new Float64Array(side * side);
  const grey = (column: number, row: number): number => {
    const at = 3 * (Math.max(0, Math.min(height - 1, row)) * width + Math.max(0, Math.min(width - 1, column)));
    return luma(pixels[at]!, pixels[at + 1]!, pixels[at + 2]!);
  };
  for (let row = 0; row < side; row++)
    for (let column = 0; column < side; column++) {
      const fromX = x + ((column + 0.5) / side - 0.5) * size - 0.5;
      const fromY = y + ((row + 0.5) / side - 0.5) * size - 0.5;
      const [left, top] = [Math.floor(fromX), Math.floor(fromY)];
      const [right, below] = [fromX - left, fromY - top];
      const upper = (1 - right) * grey(left, top) + right * grey(left + 1, top);
      const lower = (1 - right) * grey(left, top + 1) + right * grey(left + 1, top + 1);
      patch[row * side + column] = (1 - below) * upper + below * lower;
    }
  return { width: side, height: side, pixels: patch };
}

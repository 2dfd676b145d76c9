import { AreaSums, luma } from "../numeric/index.ts";
import { barrierDistance } from "./barrier-distance.ts";
import type { Size } from "./geometry.ts";

/** A picture as RGB, row by row, three bytes a pixel. */
export interface ColourRaster extends Size {
  readonly pixels: Uint8Array;
}

/**
 * A plain surface of a striking colour, as a sky, counts for so much of what a middling amount of
 * detail would give it.
 */
const PLAIN_SHARE = 0.2;
/** More detail than so many times the mean is not more of a subject. */
const LARGEST_DETAIL = 3;

/**
 * How much each pixel of a small picture stands out, at least 0. Two things are multiplied: what is
 * conspicuous in itself, and what the picture's edge does not lead to without a step of colour. So
 * a sky or a wall that reaches the edge counts little, whatever its colour, and a kite counts more
 * than a cloud. O(pixels).
 */
export function saliency(raster: ColourRaster): Float64Array {
  const planes = labPlanes(raster);
  const { width, height } = raster;
  const distance = barrierDistance(
    planes.map((plane) => boxBlur(plane, width, height, 1)),
    raster,
  );
  return conspicuousness(raster, planes).map((own, i) => Math.sqrt(own) * distance[i]! ** 2);
}

type LabPlanes = readonly [lightness: Float64Array, a: Float64Array, b: Float64Array];

function labPlanes({ width, height, pixels }: ColourRaster): LabPlanes {
  const planes = [0, 1, 2].map(() => new Float64Array(width * height)) as unknown as LabPlanes;
  for (let i = 0; i < width * height; i++) {
    const lab = labOf(pixels[3 * i]!, pixels[3 * i + 1]!, pixels[3 * i + 2]!);
    for (const [channel, plane] of planes.entries()) plane[i] = lab[channel]!;
  }
  return planes;
}

/**
 * What differs in colour from the picture's mean (Achanta et al. 2009, frequency-tuned saliency, in
 * CIE Lab) and from its surroundings. Detail counts more than a plain surface, and the middle a
 * little more than the edge. Skin counts most (Chai and Ngan 1999, ranges of Cb and Cr).
 */
function conspicuousness({ width, height, pixels }: ColourRaster, lab: LabPlanes): Float64Array {
  const count = width * height;
  const skin = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const [r, g, b] = [pixels[3 * i]!, pixels[3 * i + 1]!, pixels[3 * i + 2]!];
    const cb = 128 - 0.168736 * r - 0.331264 * g + 0.5 * b;
    const cr = 128 + 0.5 * r - 0.418688 * g - 0.081312 * b;
    skin[i] = cb >= 77 && cb <= 127 && cr >= 133 && cr <= 173 && lab[0][i]! > 20 ? 1 : 0;
  }
  const result = new Float64Array(count);
  const near = Math.max(1, Math.round(Math.max(width, height) / 48));
  const wide = Math.max(2, Math.round(Math.max(width, height) / 6));
  for (const plane of lab) {
    const mean = plane.reduce((sum, value) => sum + value, 0) / count;
    const fine = boxBlur(plane, width, height, near);
    const coarse = boxBlur(plane, width, height, wide);
    fine.forEach((own, i) => {
      result[i]! += (own - mean) ** 2 + (own - coarse[i]!) ** 2;
    });
  }
  const skinNear = boxBlur(skin, width, height, near);
  const detail = boxBlur(edges(lab[0], width, height), width, height, 2 * near);
  const meanDetail = detail.reduce((sum, value) => sum + value, 0) / count + 1e-9;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const [dx, dy] = [(x + 0.5) / width - 0.5, (y + 0.5) / height - 0.48];
      const drawn = PLAIN_SHARE + Math.min(LARGEST_DETAIL, detail[i]! / meanDetail);
      result[i] = Math.sqrt(result[i]!) * drawn * (1 + skinNear[i]!) * Math.exp(-3.2 * (dx * dx + dy * dy));
    }
  }
  return result;
}

/** How steeply lightness changes at each pixel: the larger of its steps to the right and down. */
function edges(lightness: Float64Array, width: number, height: number): Float64Array {
  const result = new Float64Array(lightness.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const right = x < width - 1 ? Math.abs(lightness[i + 1]! - lightness[i]!) : 0;
      const down = y < height - 1 ? Math.abs(lightness[i + width]! - lightness[i]!) : 0;
      result[i] = Math.max(right, down);
    }
  }
  return result;
}

/** Means over squares of 2 radius + 1 pixels, cut off at the edges. */
function boxBlur(plane: Float64Array, width: number, height: number, radius: number): Float64Array {
  const sums = new AreaSums(width, height, (i) => plane[i]!);
  const result = new Float64Array(plane.length);
  for (let y = 0; y < height; y++) {
    const [top, bottom] = [Math.max(0, y - radius), Math.min(height, y + radius + 1)];
    for (let x = 0; x < width; x++) {
      const [left, right] = [Math.max(0, x - radius), Math.min(width, x + radius + 1)];
      result[y * width + x] = sums.sum(left, top, right, bottom) / ((bottom - top) * (right - left));
    }
  }
  return result;
}

/** sRGB (IEC 61966-2-1) to CIE Lab with the white point D65. */
function labOf(red: number, green: number, blue: number): [number, number, number] {
  const linear = (value: number): number =>
    value <= 10.31475 ? value / 255 / 12.92 : ((value / 255 + 0.055) / 1.055) ** 2.4;
  const [r, g, b] = [linear(red), linear(green), linear(blue)];
  const f = (t: number): number => (t > 216 / 24_389 ? Math.cbrt(t) : (24_389 / 27 / 116) * t + 16 / 116);
  const x = f((0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505);
  const y = f(luma(r, g, b));
  const z = f((0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.089);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

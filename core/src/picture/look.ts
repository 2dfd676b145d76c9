import { assertNever } from "../errors/index.ts";
import { LUMA_SHARES, luma } from "../numeric/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Look } from "../show/index.ts";

/**
 * Tones as one affine map of a pixel's code values. So any of them, at any strength and with
 * levels, is a single pass over the pixels. Rows give red, green and blue out of red, green, blue
 * in and a constant (0 to 255).
 */
type ToneMatrix = readonly [Row, Row, Row];
type Row = readonly [number, number, number, number];

const AS_TAKEN: ToneMatrix = [
  [1, 0, 0, 0],
  [0, 1, 0, 0],
  [0, 0, 1, 0],
];
/** Luma of code values, ITU-R BT.709. */
/** The darkest and lightest pixels that levels leave to black and white, as a share. */
const CLIPPED_SHARE = 0.004;
/** Levels spread tones by no more than this: gentle. */
const MOST_SPREAD = 1.5;

/**
 * Of a look at full strength. Our own eyes, on the demo's pictures and on photographs of charts.
 */
function fullTone(kind: Look["kind"]): ToneMatrix {
  switch (kind) {
    case "none":
      return AS_TAKEN;
    case "warm":
      return [
        [1.05, 0.03, 0, 5],
        [0.02, 0.99, 0, 1],
        [0, 0.03, 0.83, 0],
      ];
    case "cool":
      return [
        [0.87, 0.02, 0.02, 0],
        [0, 0.98, 0.02, 1],
        [0, 0.03, 1.04, 6],
      ];
    case "monochrome":
      return [
        [...LUMA_SHARES, 0],
        [...LUMA_SHARES, 0],
        [...LUMA_SHARES, 0],
      ];
    case "faded":
      return faded(0.72, 0.8, 33);
    default:
      return assertNever(kind);
  }
}

/** Less colour, less contrast, and blacks that are grey. */
function faded(saturation: number, contrast: number, lift: number): ToneMatrix {
  const [red, green, blue] = LUMA_SHARES.map((share) => contrast * (1 - saturation) * share) as [
    number,
    number,
    number,
  ];
  const own = contrast * saturation;
  return [
    [red + own, green, blue, lift],
    [red, green + own, blue, lift],
    [red, green, blue + own, lift],
  ];
}

/** Whether a look leaves every pixel as it is. */
export const isAsTaken = ({ kind, strength, levels }: Look): boolean =>
  (kind === "none" || strength === 0) && levels === 0;

/**
 * Gives pixels (RGBA, four bytes each, opaque) a look, in place. Levels follow from these very
 * pixels. O(pixels); about 10 ns each.
 */
export function applyLook(pixels: Uint8Array | Uint8ClampedArray, look: Look): void {
  if (isAsTaken(look)) return;
  const { scale, offset } = look.levels > 0 ? levelsOf(pixels, look.levels) : { scale: 1, offset: 0 };
  const full = fullTone(look.kind);
  const [[rr, rg, rb, r0], [gr, gg, gb, g0], [br, bg, bb, b0]] = full.map((row, channel): Row => {
    const asTaken = itemAt(AS_TAKEN, channel);
    const [red, green, blue, lift] = row.map((weight, i) => {
      const plain = itemAt(asTaken, i);
      return plain + look.strength * (weight - plain);
    }) as [number, number, number, number];
    return [red * scale, green * scale, blue * scale, lift + (red + green + blue) * offset];
  }) as [Row, Row, Row];
  const clamped =
    pixels instanceof Uint8ClampedArray
      ? pixels
      : new Uint8ClampedArray(pixels.buffer, pixels.byteOffset, pixels.length);
  for (let i = 0; i < clamped.length; i += 4) {
    const red = clamped[i]!;
    const green = clamped[i + 1]!;
    const blue = clamped[i + 2]!;
    clamped[i] = rr * red + rg * green + rb * blue + r0;
    clamped[i + 1] = gr * red + gg * green + gb * blue + g0;
    clamped[i + 2] = br * red + bg * green + bb * blue + b0;
  }
}

/**
 * How code values are spread so that the darkest and the lightest reach black and white, as far as
 * is gentle: out = scale * in + offset.
 */
function levelsOf(pixels: Uint8Array | Uint8ClampedArray, strength: number): { scale: number; offset: number } {
  const counts = new Uint32Array(256);
  let seen = 0;
  for (let i = 0; i < pixels.length; i += 16) {
    counts[Math.round(luma(pixels[i]!, pixels[i + 1]!, pixels[i + 2]!))]!++;
    seen++;
  }
  const at = (share: number): number => {
    let below = 0;
    for (let code = 0; code < 256; code++) {
      below += counts[code]!;
      if (below > share * seen) return code;
    }
    return 255;
  };
  const [low, high] = [at(CLIPPED_SHARE), at(1 - CLIPPED_SHARE)];
  const spread = Math.min(MOST_SPREAD, 255 / Math.max(1, high - low));
  // What is not spread all the way keeps its middle in proportion between black and white.
  const target = (255 - spread * (high - low)) * (low / Math.max(1, low + 255 - high));
  const [scale, offset] = [spread, target - spread * low];
  return { scale: 1 + strength * (scale - 1), offset: strength * offset };
}

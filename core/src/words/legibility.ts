import type { PlannedWords, Size } from "../picture/index.ts";
import { itemAt, lastOf } from "../presence/index.ts";
import { contrastRatio, parseColour, type Rgb, relativeLuminance } from "./contrast.ts";

/**
 * The share of the letters' surroundings that may be worse than what is said: a speck of light does
 * not hide a word.
 */
const WORST_SHARE = 0.05;
/** WCAG 2.2, 1.4.3: what letters want, and large ones. */
export const WANTED_CONTRAST = { normal: 4.5, large: 3 } as const;
/**
 * Letters from this share of the frame's shorter side on are large. WCAG says 24 CSS pixels; this
 * is that on a phone's screen that shows a film across.
 */
const LARGE_FROM = 0.06;
const STRENGTHS = [0.35, 0.5, 0.65, 0.8, 0.92] as const;

/** Pixels as a canvas gives them: four bytes each. */
type Rgba = Uint8Array | Uint8ClampedArray;

/** The contrast that letters want which are so many pixels of a frame tall. */
export const wantedContrast = (pixels: number, { width, height }: Size): number =>
  pixels >= LARGE_FROM * Math.min(width, height) ? WANTED_CONTRAST.large : WANTED_CONTRAST.normal;

/**
 * The contrast of letters with what is behind them: the 5th percentile over their surroundings, 1
 * to 21. `behind`: the frame without the letters; `around`: the same pixels, seen (alpha above a
 * half) where a letter or something closely around one is. 21 where there are no letters.
 * O(pixels).
 */
export function letterContrast(colour: string, behind: Rgba, around: Rgba, ground: Ground | null = null): number {
  const own = relativeLuminance(parseColour(colour));
  const ratios: number[] = [];
  for (let i = 0; i < behind.length; i += 4) {
    if (around[i + 3]! < 128) continue;
    const pixel: Rgb = [behind[i]!, behind[i + 1]!, behind[i + 2]!];
    ratios.push(contrastRatio(own, relativeLuminance(ground ? mixed(pixel, ground) : pixel)));
  }
  if (ratios.length === 0) return 21;
  ratios.sort((a, b) => a - b);
  return itemAt(ratios, Math.floor(WORST_SHARE * (ratios.length - 1)));
}

interface Ground {
  readonly colour: Rgb;
  readonly strength: number;
}

const mixed = (pixel: Rgb, { colour, strength }: Ground): Rgb => [
  pixel[0] + (colour[0] - pixel[0]) * strength,
  pixel[1] + (colour[1] - pixel[1]) * strength,
  pixel[2] + (colour[2] - pixel[2]) * strength,
];

/**
 * The weakest backing that gives letters the contrast that they want in all of some frames: dark
 * behind light letters, light behind dark ones. The strongest where none is enough.
 */
export function backingFor(
  colour: string,
  frames: readonly { readonly behind: Rgba; readonly around: Rgba }[],
  wanted: number,
): NonNullable<PlannedWords["backing"]> {
  const isLight = relativeLuminance(parseColour(colour)) > MIDDLE_LUMINANCE;
  const backing = isLight ? "#0b171c" : "#fbf7ee";
  const strength =
    STRENGTHS.find((one) =>
      frames.every(
        ({ behind, around }) =>
          letterContrast(colour, behind, around, { colour: parseColour(backing), strength: one }) >= wanted,
      ),
    ) ?? lastOf(STRENGTHS);
  return { colour: backing, strength };
}

/** As far from black as from white, in contrast: (L + 0.05)^2 = 0.05 * 1.05. */
const MIDDLE_LUMINANCE = Math.sqrt(0.05 * 1.05) - 0.05;

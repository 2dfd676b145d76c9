import { luma } from "../numeric/index.ts";

/** Contrast as WCAG 2.2 defines it (relative luminance, contrast ratio). */

export type Rgb = readonly [red: number, green: number, blue: number];

/** "#rrggbb" as three code values, 0 to 255. */
export function parseColour(colour: string): Rgb {
  const value = Number.parseInt(colour.slice(1), 16);
  return [(value >> 16) & 0xff, (value >> 8) & 0xff, value & 0xff];
}

/** Of an sRGB channel, 0 to 255. */
const LINEAR = Float64Array.from({ length: 256 }, (_, code) => {
  const channel = code / 255;
  return channel <= 0.04045 ? channel / 12.92 : ((channel + 0.055) / 1.055) ** 2.4;
});

/** 0 (black) to 1 (white). Code values are rounded and held within 0 and 255. */
export function relativeLuminance([red, green, blue]: Rgb): number {
  const linear = (code: number): number => LINEAR[Math.min(255, Math.max(0, Math.round(code)))]!;
  return luma(linear(red), linear(green), linear(blue));
}

/** 1 to 21, whichever is the lighter. */
export function contrastRatio(first: number, second: number): number {
  return (Math.max(first, second) + 0.05) / (Math.min(first, second) + 0.05);
}

import type { Container, Output } from "@humming-tide/contract";
import { type Size, shapeOf } from "@humming-tide/core/picture";
import { type FrameRate, frameRateName, NAMED_FRAME_RATES } from "@humming-tide/core/time";

/** The shapes that films are handed over in, the widest first. */
const FILM_SHAPES = ["16:9", "4:5", "1:1", "9:16"] as const;
const SHAPE_NAMES: Readonly<Record<string, string>> = { "16:9": "wide", "9:16": "upright", "1:1": "square" };

/** How sharp a film is: what its shorter side has at least, as screens are called. */
export const SHARPNESS = [
  { value: "720", label: "720p" },
  { value: "1080", label: "1080p" },
  { value: "2160", label: "4K" },
] as const;
export type Sharpness = (typeof SHARPNESS)[number]["value"];

/** From the slowest to the fastest. */
export const RATE_NAMES = (Object.keys(NAMED_FRAME_RATES) as (keyof typeof NAMED_FRAME_RATES)[]).sort(
  (a, b) => Number(a) - Number(b),
);

export const CONTAINERS: readonly { readonly value: Container; readonly label: string; readonly codecs: string }[] = [
  { value: "mp4", label: "MP4", codecs: "H.264, AAC" },
  { value: "webm", label: "WebM", codecs: "VP9, Opus" },
];

/** "16:9, wide". */
export const shapeName = (shape: string): string =>
  SHAPE_NAMES[shape] === undefined ? shape : `${shape}, ${SHAPE_NAMES[shape]}`;

/** A film of a shape whose shorter side has so many pixels; both sides are even. */
export function sizeOf(shape: string, shorter: number): Size {
  const [across, down] = shape.split(":").map(Number) as [number, number];
  const scale = shorter / Math.min(across, down);
  const even = (length: number): number => 2 * Math.round((length * scale) / 2);
  return { width: even(across), height: even(down) };
}

/** The nearest of the named ones. */
export function sharpnessOf({ width, height }: Size): Sharpness {
  const shorter = Math.min(width, height);
  const distance = (value: Sharpness): number => Math.abs(Math.log(Number(value) / shorter));
  return SHARPNESS.map(({ value }) => value).reduce((best, value) => (distance(value) < distance(best) ? value : best));
}

const sameRate = (a: FrameRate, b: FrameRate): boolean => a.num * b.den === b.num * a.den;

export const isSameOutput = (a: Pick<Output, "size" | "frameRate">, b: Pick<Output, "size" | "frameRate">): boolean =>
  a.size.width === b.size.width && a.size.height === b.size.height && sameRate(a.frameRate, b.frameRate);

/** "1920 × 1080, 25 fps". */
export const outputText = ({ size, frameRate }: Pick<Output, "size" | "frameRate">): string =>
  `${size.width} × ${size.height}, ${frameRateName(frameRate)} fps`;

/** The show's own shape too, where it is none of the usual ones. */
export const shapesFor = (own: Size): readonly string[] => [...new Set([shapeOf(own), ...FILM_SHAPES])];

import { partSeconds, songOfPart } from "@humming-tide/core/film";
import { type Size, shapeOf } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import {
  CONTAINER_FACTS,
  type Container,
  type FilmOutput,
  type FilmPart,
  type Quality,
  type ShowSong,
} from "@humming-tide/core/show";
import { frameRateName, NAMED_FRAME_RATES } from "@humming-tide/core/time";

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

export const CONTAINERS: readonly { readonly value: Container; readonly label: string; readonly hint: string }[] = [
  { value: "mp4", label: "MP4", hint: "H.264, AAC: plays everywhere" },
  { value: "webm", label: "WebM", hint: "VP9, Opus: free of patents, for the web" },
  { value: "av1", label: "AV1", hint: "WebM with AV1 and Opus: the smallest file; newer players only" },
  {
    value: "mezzanine",
    label: "For editing",
    hint: "MOV with VC-3, 10 bits, and PCM, 24 bits: very large, loses nothing",
  },
  { value: "player", label: "Web player", hint: "A zip whose page plays in any browser, without a network" },
];

export const QUALITY_CHOICES: readonly { readonly value: Quality; readonly label: string; readonly hint: string }[] = [
  { value: "small", label: "Small", hint: "For phones and slow lines" },
  { value: "fine", label: "Fine", hint: "Cannot be told from what was drawn" },
  { value: "finest", label: "Finest", hint: "For those who will work on it; several times as large" },
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

/** "1920 × 1080, 25 fps". */
export const outputText = ({ size, frameRate }: Pick<FilmOutput, "size" | "frameRate">): string =>
  `${size.width} × ${size.height}, ${frameRateName(frameRate)} fps`;

/** "30 s" where it is just so long, else "30.4 s". */
export function partLength(part: FilmPart, songs: readonly ShowSong[]): string {
  const seconds = partSeconds(part, songOfPart(songs, part) ?? { speed: 1 });
  return `${Math.round(seconds * 10) / 10} s`;
}

/** What an output does beside its size and rate: "MP4, small, no captions, “Proof”". */
export function outputDetails(output: Omit<FilmOutput, "id">, songs: readonly ShowSong[]): string {
  return [
    present(CONTAINERS.find(({ value }) => value === output.container)).label,
    ...(CONTAINER_FACTS[output.container].hasQuality
      ? [present(QUALITY_CHOICES.find(({ value }) => value === output.quality)).label.toLowerCase()]
      : []),
    ...(output.captions ? [] : ["no captions"]),
    ...(output.part ? [partLength(output.part, songs)] : []),
    ...(output.loops ? ["loops"] : []),
    ...(output.watermark ? [`“${output.watermark.text}” over it`] : []),
  ].join(", ");
}

/** The show's own shape too, where it is none of the usual ones. */
export const shapesFor = (own: Size): readonly string[] => [...new Set([shapeOf(own), ...FILM_SHAPES])];

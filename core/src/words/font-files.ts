import { present } from "../presence/index.ts";
import type { FilmFont } from "../show/index.ts";

/** One file of a font: a weight of a family, for some letters of the world. */
export interface FontFile {
  readonly name: string;
  readonly family: FilmFont | FallbackFont;
  readonly weight: 400 | 700;
  readonly italic: boolean;
  /** Code points that it says it has, both ends included; it may lack some of them. */
  readonly ranges: readonly (readonly [first: number, last: number])[];
}

/** Asked in this order for letters that a film font lacks. */
const FALLBACK_FONTS = ["Noto Sans", "Noto Sans Hebrew", "Noto Sans Arabic"] as const;
export const EMOJI_FONT = "Noto Color Emoji";
export type FallbackFont = (typeof FALLBACK_FONTS)[number] | typeof EMOJI_FONT;

/** Fonts that have only a regular weight. */
export const ONE_WEIGHT_FONTS: ReadonlySet<FilmFont> = new Set(["Great Vibes"]);
/** Fonts that have no italic letters. */
export const UPRIGHT_FONTS: ReadonlySet<FilmFont> = new Set(["Cinzel", "Oswald", "Great Vibes", "Dancing Script"]);
/** Scripts whose letters are joined: room between them would tear them apart. */
export const JOINED_FONTS: ReadonlySet<FilmFont> = new Set(["Great Vibes", "Dancing Script"]);

/** The letters that are chosen for a line: of a family, a weight, upright or not. */
export interface Face {
  readonly font: FilmFont;
  readonly weight: 400 | 700;
  readonly italic: boolean;
}

/**
 * Letters of a font are not set smaller than this share of the frame's shorter side: thin strokes
 * and small bowls would not be read. Our own eyes, on a phone that shows a film across.
 */
export const leastSize = (font: FilmFont): number => LEAST_SIZES[font] ?? 0.022;
const LEAST_SIZES: Partial<Record<FilmFont, number>> = {
  "Great Vibes": 0.055,
  "Dancing Script": 0.04,
  "Cormorant Garamond": 0.03,
};

/**
 * A code point that shows as a picture even without a variation selector, or asks for one by it
 * (UTS 51).
 */
const EMOJI = /\p{Emoji_Presentation}|\p{Extended_Pictographic}\uFE0F|[#*0-9]\uFE0F?\u20E3/u;
/**
 * They shape what stands beside them and need no drawing of their own: joiners, variation
 * selectors, marks of direction.
 */
const UNSEEN = /^[\p{Default_Ignorable_Code_Point}\p{Cf}]$/u;

/** What is drawn as one: a letter with its marks, an emoji of several people. */
export function graphemes(text: string): { readonly text: string; readonly start: number }[] {
  return Array.from(new Intl.Segmenter("en", { granularity: "grapheme" }).segment(text), ({ segment, index }) => ({
    text: segment,
    start: index,
  }));
}

/** The files that might draw a grapheme, the first choice first. */
export function candidateFiles(
  files: readonly FontFile[],
  grapheme: string,
  { font, weight, italic }: Face,
): FontFile[] {
  const points = seenPoints(grapheme);
  const holding = files.filter((file) => points.every((point) => isIn(file.ranges, point)));
  const emoji = holding.filter(({ family }) => family === EMOJI_FONT);
  const letters = [font, ...FALLBACK_FONTS].flatMap((family) => {
    const own = holding.filter((file) => file.family === family);
    return nearest(
      nearest(own, (file) => file.weight === weight),
      (file) => file.italic === italic,
    );
  });
  const inOrder = EMOJI.test(grapheme) ? [...emoji, ...letters] : [...letters, ...emoji];
  return [...new Set(inOrder)];
}

/** The code points of a grapheme that want a glyph. */
export const seenPoints = (grapheme: string): number[] =>
  Array.from(grapheme)
    .filter((letter) => !UNSEEN.test(letter))
    .map((letter) => present(letter.codePointAt(0)));

/** Those that are as wished; all where none is. */
function nearest(files: readonly FontFile[], isWished: (file: FontFile) => boolean): readonly FontFile[] {
  const wished = files.filter(isWished);
  return wished.length > 0 ? wished : files;
}

const isIn = (ranges: FontFile["ranges"], point: number): boolean =>
  ranges.some(([first, last]) => point >= first && point <= last);

/** Reads a CSS unicode-range: "U+0-FF, U+131, U+1F3F3-1F3F4". */
export function parseUnicodeRange(text: string): (readonly [number, number])[] {
  return text.split(",").map((part) => {
    const [first, last] = part.trim().replace(/^U\+/i, "").split("-");
    const from = Number.parseInt(present(first), 16);
    return [from, last === undefined ? from : Number.parseInt(last, 16)] as const;
  });
}

export { contrastRatio, parseColour, type Rgb, relativeLuminance } from "./contrast.ts";
export { designWords } from "./design-words.ts";
export { drawBehindLetters, drawLaidWords, drawLetterSurroundings, inkOf, type MakeCanvas } from "./draw-laid-words.ts";
export { fontError } from "./font-errors.ts";
export {
  EMOJI_FONT,
  type FallbackFont,
  type FontFile,
  JOINED_FONTS,
  leastSize,
  ONE_WEIGHT_FONTS,
  parseUnicodeRange,
  UPRIGHT_FONTS,
} from "./font-files.ts";
export { HarfBuzzShaper } from "./harfbuzz-shaper.ts";
export { type Fonts, filesForWords, type LaidGlyph, type LaidLine, type LaidWords, laySheet } from "./lay-words.ts";
export { backingFor, letterContrast, WANTED_CONTRAST, wantedContrast } from "./legibility.ts";
export { countWords, READING_WORDS_PER_MINUTE, secondsToRead } from "./reading-speed.ts";
export type { FontExtent, Outline, Paint, PaintFill, ShapedGlyph, ShapedRun, Shaper } from "./shaper.ts";
export { TITLE_SET_DESIGNS } from "./title-sets.ts";
export { openTypeOf } from "./woff.ts";
export { wordsArea } from "./word-area.ts";
export { WordImages } from "./word-images.ts";

export { contrastRatio, parseColour, type Rgb, relativeLuminance } from "./contrast.ts";
export { drawBehindLetters, drawLetterSurroundings, inkOf, type MakeCanvas } from "./draw-laid-words.ts";
export { EMOJI_FONT, type FallbackFont, type FontFile, ONE_WEIGHT_FONTS, parseUnicodeRange } from "./font-files.ts";
export { HarfBuzzShaper } from "./harfbuzz-shaper.ts";
export { type Fonts, filesForWords, type LaidGlyph, type LaidLine, type LaidWords, laySheet } from "./lay-words.ts";
export { backingFor, letterContrast, WANTED_CONTRAST, wantedContrast } from "./legibility.ts";
export type { FontExtent, Outline, Paint, PaintFill, ShapedGlyph, ShapedRun, Shaper } from "./shaper.ts";
export { openTypeOf } from "./woff.ts";
export { WordImages } from "./word-images.ts";

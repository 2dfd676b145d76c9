/** What the song is made of: sections, phrases, accents, its ending. */

export { type Accent, findAccents, findOnsets } from "./accents.ts";
export { applauseStart } from "./applause.ts";
export { type BarFeatures, barFeatures, barLikeness } from "./bar-features.ts";
export { type Doubt, findDoubts } from "./doubts.ts";
export { type Ending, findEnding } from "./ending.ts";
export { phraseBars, phraseStarts } from "./phrases.ts";
export { findSections, type Section } from "./sections.ts";
export { type Texture, texture } from "./texture.ts";

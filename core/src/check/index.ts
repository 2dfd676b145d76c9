export { type Bars, barsIn } from "./bars.ts";
export { checkBars, mayHaveBars } from "./check-drawn.ts";
export { checkFilm } from "./check-film.ts";
export { cutsSubject } from "./check-framing.ts";
export { type LandingSummary, landingSummary } from "./check-landings.ts";
export { checkMedia, type MediaTrouble } from "./check-media.ts";
export { checkLevels } from "./check-sound.ts";
export { checkFlashesOf, type FilmToCheck, filmsToCheck } from "./films-to-check.ts";
export { type Finding, type FindingOf, findingSchema, type Severity, sortedFindings } from "./finding.ts";
export {
  applyFixes,
  type FindingGroup,
  findingGroups,
  groupFixes,
  groupText,
} from "./finding-groups.ts";
export { findingText, fixLabel } from "./finding-sentences.ts";
export { applyFix, type Fix } from "./fix.ts";
export { type FlashStretch, FlashWatch, flashSize } from "./flash-watch.ts";

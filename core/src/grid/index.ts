export { correctedGrid } from "./corrected-grid.ts";
export { type Grid, type GridBeat, indexOfNearestBeat } from "./grid.ts";
export type { BeatLevel, GridEdit } from "./grid-edit.ts";
export { isAnswered, likelyCorrection } from "./likely-correction.ts";
export { phraseStarts } from "./phrase-starts.ts";
export { averagedPasses, drawnTo, measureTapLag, pulseOfTaps, type TapLag } from "./taps.ts";

export type { Accent } from "./accents.ts";
export { analyseMusic, type Beat, type MusicAnalysis, type Section } from "./analyse-music.ts";
export { ANALYSIS_SAMPLE_RATE, type MonoAudio } from "./audio.ts";
export type { EnergyCurve } from "./energy.ts";
export { correctedGrid, type Grid, type GridEdit, indexOfNearestBeat } from "./grid.ts";
export { type WaveformPeaks, waveformPeaks } from "./waveform-peaks.ts";

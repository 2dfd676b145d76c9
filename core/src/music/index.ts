export type { Accent } from "./accents.ts";
export {
  ANALYSIS_VERSION,
  analyseMusic,
  type Beat,
  heardBeatFeatures,
  type MusicAnalysis,
  type Stretch,
} from "./analyse-music.ts";
export { ANALYSIS_SAMPLE_RATE, type MonoAudio } from "./audio.ts";
export { type BarFeatures, barFeatures, barLikeness } from "./bar-features.ts";
export { type BeatNetwork, readBeatNetwork } from "./beat-network.ts";
export type { Doubt } from "./doubts.ts";
export type { Ending } from "./ending.ts";
export type { EnergyCurve } from "./energy.ts";
export { evenPulse } from "./even-pulse.ts";
export type { LevelDoubt } from "./level-doubt.ts";
export type { Section } from "./sections.ts";
export { median } from "./statistics.ts";
export type { Texture } from "./texture.ts";
export { extremesBetween, packPeaks, unpackPeaks, type WaveformPeaks, waveformPeaks } from "./waveform-peaks.ts";

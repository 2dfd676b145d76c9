export {
  ANALYSIS_VERSION,
  analyseMusic,
  type Beat,
  heardBeatFeatures,
  type MusicAnalysis,
  type Stretch,
} from "./analyse-music.ts";
export { type BeatNetwork, evenPulse, type LevelDoubt, readBeatNetwork } from "./beats/index.ts";
export {
  ANALYSIS_SAMPLE_RATE,
  type EnergyCurve,
  extremesBetween,
  hannWindow,
  MagnitudeSpectrum,
  type MonoAudio,
  packPeaks,
  unpackPeaks,
  type WaveformPeaks,
  waveformPeaks,
} from "./signal/index.ts";
export {
  type Accent,
  type BarFeatures,
  barFeatures,
  barLikeness,
  type Doubt,
  type Ending,
  type Section,
  type Texture,
} from "./structure/index.ts";

export { type DecibelCurve, decibelsAt, gainOfDecibels, lowerOf } from "./decibel-curve.ts";
export { amplitude, decibels } from "./decibels.ts";
export { denoise } from "./denoise.ts";
export { type Ducking, duckingCurve } from "./ducking.ts";
export { type GainCurve, gainAt, gainProduct, risingPower, sinkingPower } from "./gain-curve.ts";
export { joinSamples } from "./join-samples.ts";
export { LOUDNESS_SAMPLE_RATE, type Loudness, LoudnessMeter } from "./loudness.ts";
export { MasteredMix, type SoundRenderer } from "./mastered-mix.ts";
export { type Master, MasterMeasure, type SoundLevels } from "./measure-master.ts";
export { SoundMixer, soundSecondsAt } from "./mix-sound.ts";
export { musicLevel } from "./music-level.ts";
export { piecewiseLinear } from "./piecewise-linear.ts";
export { resampled } from "./resample.ts";
export { memorySource, type SampleSource, type Stereo } from "./sample-source.ts";
export { firstSong, SOUND_KIND_WORDS, type SoundKind, soundKind } from "./sound-kind.ts";
export {
  type MasterWish,
  ownerKey,
  parseSoundName,
  plainSound,
  type SoundOwner,
  type SoundPiece,
  type SoundPlan,
  soundName,
  type TimePoint,
} from "./sound-plan.ts";
export { type SpeechFacts, SpeechFinder, type SpokenStretch } from "./speech.ts";
export { STRETCH_HOP, TimeStretch } from "./time-stretch.ts";
export { TruePeakMeter } from "./true-peak.ts";
export { writeWav } from "./wav-file.ts";

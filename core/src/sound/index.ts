export { alongLines } from "./along-lines.ts";
export { type GainCurve, gainAt, gainProduct, risingPower, sinkingPower } from "./gain-curve.ts";
export { SoundMixer, songSecondsAt } from "./mix-sound.ts";
export { planSound } from "./plan-sound.ts";
export { resampled } from "./resample.ts";
export { memorySource, type SampleSource, type Stereo } from "./sample-source.ts";
export type { SoundPiece, SoundPlan, TimePoint } from "./sound-plan.ts";
export { STRETCH_HOP, TimeStretch } from "./time-stretch.ts";

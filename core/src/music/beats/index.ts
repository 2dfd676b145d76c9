/** Where the beats and bars are, by the network and the bar pointer behind it. */
export { trackBars } from "./bar-pointer.ts";
export { beatFeatures } from "./beat-features.ts";
export { type BeatActivations, type BeatNetwork, beatActivations, readBeatNetwork } from "./beat-network.ts";
export { type TimedBeat, timeBeats } from "./beat-times.ts";
export { withEndCounted } from "./counted-end.ts";
export { evenPulse } from "./even-pulse.ts";
export { type LevelDoubt, levelDoubt } from "./level-doubt.ts";
export { meterName } from "./meter.ts";
export { onsetCurve } from "./onset-curve.ts";
export { refineToOnset } from "./onset-refinement.ts";
export { pulsePrior } from "./pulse-prior.ts";
export { type SteadyPulse, steadyPulses } from "./steady-pulse.ts";

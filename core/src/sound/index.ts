export { mixSound } from "./mix-sound.ts";
export { type GainCurve, gainAt, planSound, type SoundPlan } from "./plan-sound.ts";

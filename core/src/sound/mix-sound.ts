import { gainAt, type SoundPlan } from "./plan-sound.ts";

/**
 * Turns a piece of the song into a piece of the film's sound, in place. `interleaved` holds `channels` samples a sampling
 * instant, the first of which is instant `firstSample` of the film. A song is handed over piece by piece, so memory stays flat.
 */
export function mixSound(
  plan: SoundPlan,
  interleaved: Float32Array,
  channels: number,
  sampleRate: number,
  firstSample: number,
): void {
  const holdUntil = plan.gain[0] ? Math.floor(plan.gain[0].seconds * sampleRate) : Number.POSITIVE_INFINITY;
  const count = Math.floor(interleaved.length / channels);
  for (let i = Math.max(0, holdUntil - firstSample); i < count; i++) {
    const gain = gainAt(plan.gain, (firstSample + i) / sampleRate);
    for (let channel = 0; channel < channels; channel++) interleaved[i * channels + channel]! *= gain;
  }
}

import { type Instrument, note, SAMPLE_RATE } from "./instruments.ts";

/** One event of a score in seconds. */
export interface PlayedNote {
  readonly instrument: Instrument;
  readonly seconds: number;
  readonly lengthSeconds: number;
  readonly pitch: number;
  /** 0 to 1. */
  readonly level: number;
}

/** Left-right place of each instrument (-1 to 1) and how much of it goes into the room. */
const PLACES: Readonly<Record<Instrument, { pan: number; room: number; gain: number }>> = {
  keys: { pan: -0.2, room: 0.3, gain: 0.2 },
  pluck: { pan: 0.3, room: 0.22, gain: 0.3 },
  bass: { pan: 0, room: 0.04, gain: 0.34 },
  pad: { pan: 0, room: 0.45, gain: 0.085 },
  reed: { pan: 0.12, room: 0.4, gain: 0.17 },
  kick: { pan: 0, room: 0.05, gain: 0.62 },
  snare: { pan: 0.06, room: 0.18, gain: 0.4 },
  hat: { pan: 0.35, room: 0.06, gain: 0.3 },
  clap: { pan: -0.3, room: 0.3, gain: 0.34 },
};

export interface StereoSound {
  readonly left: Float32Array;
  readonly right: Float32Array;
  readonly sampleRate: number;
}

/** Plays a score: every note starts on the sample nearest its time. Peak level 0.89 (-1 dB). */
export function mixdown(notes: readonly PlayedNote[], lengthSeconds: number): StereoSound {
  const length = Math.round(lengthSeconds * SAMPLE_RATE);
  const [left, right, room] = [new Float32Array(length), new Float32Array(length), new Float32Array(length)];
  for (const played of notes) {
    const place = PLACES[played.instrument];
    const sound = note(played.instrument, played.pitch, played.lengthSeconds);
    const from = Math.round(played.seconds * SAMPLE_RATE);
    const gain = played.level * place.gain;
    const [l, r] = [gain * Math.sqrt((1 - place.pan) / 2), gain * Math.sqrt((1 + place.pan) / 2)];
    const wet = gain * place.room;
    const end = Math.min(sound.length, length - from);
    for (let n = 0; n < end; n++) {
      const sample = sound[n]!;
      left[from + n]! += sample * l;
      right[from + n]! += sample * r;
      room[from + n]! += sample * wet;
    }
  }
  reverberate(room, left, [1557, 1617, 1491, 1422], [225, 556]);
  reverberate(room, right, [1580, 1640, 1514, 1445], [248, 579]);
  normalise(left, right);
  return { left, right, sampleRate: SAMPLE_RATE };
}

/**
 * A small hall after Schroeder, 1962: four combs side by side, then two all-passes. Adds to `out`.
 */
function reverberate(
  input: Float32Array,
  out: Float32Array,
  combs: readonly number[],
  allPasses: readonly number[],
): void {
  const wet = new Float32Array(input.length);
  for (const delay of combs) {
    const line = new Float32Array(delay);
    let smooth = 0;
    for (let n = 0; n < input.length; n++) {
      const i = n % delay;
      const echo = line[i]!;
      smooth = echo * 0.7 + smooth * 0.3;
      line[i] = input[n]! + smooth * 0.82;
      wet[n]! += echo * 0.25;
    }
  }
  for (const delay of allPasses) {
    const line = new Float32Array(delay);
    for (let n = 0; n < wet.length; n++) {
      const i = n % delay;
      const echo = line[i]!;
      line[i] = wet[n]! + echo * 0.5;
      wet[n] = echo - 0.5 * line[i];
    }
  }
  for (let n = 0; n < out.length; n++) out[n]! += wet[n]!;
}

function normalise(left: Float32Array, right: Float32Array): void {
  let peak = 1e-9;
  for (const channel of [left, right]) for (const sample of channel) peak = Math.max(peak, Math.abs(sample));
  for (const channel of [left, right]) for (let n = 0; n < channel.length; n++) channel[n]! *= 0.89 / peak;
}

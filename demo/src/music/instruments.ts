import { Random } from "../random.ts";

export const SAMPLE_RATE = 44_100;

export type Instrument = "keys" | "pluck" | "bass" | "pad" | "reed" | "kick" | "snare" | "hat" | "clap";

const cache = new Map<string, Float32Array>();

/**
 * One note in one channel, starting at its first sample. `pitch` is a MIDI note (69 is 440 Hz;
 * drums ignore it), `seconds` how long it is held. Notes are made once and mixed many times.
 */
export function note(instrument: Instrument, pitch: number, seconds: number): Float32Array {
  const key = `${instrument} ${pitch} ${seconds.toFixed(2)}`;
  let made = cache.get(key);
  if (!made) {
    made = make(instrument, 440 * 2 ** ((pitch - 69) / 12), seconds);
    cache.set(key, made);
  }
  return made;
}

/** Notes of a finished song need not stay in memory. */
export const forgetNotes = (): void => cache.clear();

function make(instrument: Instrument, hz: number, seconds: number): Float32Array {
  switch (instrument) {
    case "keys":
      return tone(hz, seconds, 0.5, 0.004, 1.6, [1, 0.5, 0.12, 0.2, 0.05, 0.03]);
    case "bass":
      return tone(hz, seconds, 0.09, 0.006, 1.1, [1, 0.55, 0.3, 0.12]);
    case "pad":
      return pad(hz, seconds);
    case "reed":
      return reed(hz, seconds);
    case "pluck":
      return pluck(hz, seconds);
    case "kick":
      return drum(0.32, (t) => Math.sin(2 * Math.PI * (46 * t + 9 * (1 - Math.exp(-t * 34)))) * Math.exp(-t * 11), 0);
    case "snare":
      return drum(0.22, (t) => 0.35 * Math.sin(2 * Math.PI * 185 * t) * Math.exp(-t * 26), 0.5, 22);
    case "hat":
      return drum(0.07, () => 0, 0.34, 75, true);
    case "clap":
      return drum(0.16, () => 0, 0.5, 30, true);
  }
}

/** Decaying partials with a short attack and a release after the note is let go. */
function tone(
  hz: number,
  seconds: number,
  release: number,
  attack: number,
  decay: number,
  partials: readonly number[],
): Float32Array {
  const length = Math.round((seconds + release) * SAMPLE_RATE);
  const out = new Float32Array(length);
  for (const [i, level] of partials.entries()) {
    const frequency = hz * (i + 1) * (1 + 0.0004 * i * i);
    if (frequency > SAMPLE_RATE / 2.5) break;
    const step = (2 * Math.PI * frequency) / SAMPLE_RATE;
    const fall = Math.exp(-(decay * (1 + 0.6 * i)) / SAMPLE_RATE);
    let amplitude = level;
    for (let n = 0; n < length; n++) {
      out[n]! += Math.sin(step * n) * amplitude;
      amplitude *= fall;
    }
  }
  return shaped(out, attack, seconds, release);
}

function pad(hz: number, seconds: number): Float32Array {
  const length = Math.round((seconds + 0.8) * SAMPLE_RATE);
  const out = new Float32Array(length);
  for (const detune of [0.9972, 1, 1.0031]) {
    for (let partial = 1; partial <= 5; partial++) {
      const step = (2 * Math.PI * hz * detune * partial) / SAMPLE_RATE;
      const level = 0.3 / partial ** 1.7;
      for (let n = 0; n < length; n++) out[n]! += Math.sin(step * n + partial) * level;
    }
  }
  return shaped(out, 0.25, seconds, 0.8);
}

/** A breathy lead with a slow vibrato: somewhere between a flute and a mouth organ. */
function reed(hz: number, seconds: number): Float32Array {
  const release = 0.12;
  const out = new Float32Array(Math.round((seconds + release) * SAMPLE_RATE));
  let phase = 0;
  for (let n = 0; n < out.length; n++) {
    const t = n / SAMPLE_RATE;
    const vibrato = 1 + 0.004 * Math.min(1, t * 2.5) * Math.sin(2 * Math.PI * 5.2 * t);
    phase += (2 * Math.PI * hz * vibrato) / SAMPLE_RATE;
    out[n] = 0.7 * Math.sin(phase) + 0.22 * Math.sin(2 * phase) + 0.14 * Math.sin(3 * phase);
  }
  return shaped(out, 0.03, seconds, release);
}

/**
 * A plucked string after Karplus & Strong, 1983: a burst of noise in a delay line that averages
 * itself away.
 */
function pluck(hz: number, seconds: number): Float32Array {
  const random = new Random(Math.round(hz * 100));
  const period = Math.round(SAMPLE_RATE / hz);
  const line = Float32Array.from({ length: period }, () => random.between(-1, 1));
  const release = 0.15;
  const out = new Float32Array(Math.round((seconds + release) * SAMPLE_RATE));
  for (let n = 0; n < out.length; n++) {
    const i = n % period;
    out[n] = line[i]!;
    line[i] = 0.4985 * (line[i]! + line[(i + 1) % period]!);
  }
  return shaped(out, 0.001, seconds, release);
}

function drum(seconds: number, body: (t: number) => number, noise: number, fall = 20, bright = false): Float32Array {
  const random = new Random(1234 + Math.round(seconds * 1000));
  let before = 0;
  return Float32Array.from({ length: Math.round(seconds * SAMPLE_RATE) }, (_, n) => {
    const t = n / SAMPLE_RATE;
    const white = random.between(-1, 1);
    const hiss = bright ? white - before : white;
    before = white;
    return body(t) + noise * hiss * Math.exp(-t * fall);
  });
}

function shaped(out: Float32Array, attack: number, seconds: number, release: number): Float32Array {
  const attackSamples = attack * SAMPLE_RATE;
  const held = seconds * SAMPLE_RATE;
  const tail = release * SAMPLE_RATE;
  for (let n = 0; n < out.length; n++) {
    if (n < attackSamples) out[n]! *= n / attackSamples;
    if (n > held) out[n]! *= Math.max(0, 1 - (n - held) / tail) ** 2;
  }
  return out;
}

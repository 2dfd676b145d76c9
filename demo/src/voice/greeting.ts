import { present } from "@humming-tide/core/presence";
import { SAMPLE_RATE } from "../music/instruments.ts";
import { Random } from "../random.ts";

/**
 * A spoken greeting from a voice made of formulas: pulses through three formants for vowels,
 * coloured noise for the rest (a formant synthesizer after Klatt, 1980, much reduced). "Good
 * evening, dear friends. Welcome to the closing night of the lantern regatta."
 */
interface Sound {
  readonly seconds: number;
  /** Formants in hertz; empty for noise alone. */
  readonly formants: readonly number[];
  readonly noise: number;
}

const vowel = (seconds: number, ...formants: number[]): Sound => ({ seconds, formants, noise: 0.01 });
const hiss = (seconds: number, noise: number): Sound => ({ seconds, formants: [], noise });

const SOUNDS: Readonly<Record<string, Sound>> = {
  i: vowel(0.1, 300, 2200, 2900),
  e: vowel(0.1, 480, 1850, 2500),
  a: vowel(0.12, 730, 1150, 2450),
  o: vowel(0.13, 480, 850, 2400),
  u: vowel(0.11, 330, 900, 2250),
  "@": vowel(0.06, 500, 1450, 2450),
  l: vowel(0.07, 360, 1050, 2600),
  r: vowel(0.07, 350, 1150, 1650),
  m: vowel(0.08, 260, 1000, 2100),
  n: vowel(0.08, 270, 1500, 2500),
  w: vowel(0.07, 300, 650, 2200),
  v: { seconds: 0.06, formants: [280, 1300, 2300], noise: 0.05 },
  d: hiss(0.035, 0.12),
  g: hiss(0.04, 0.1),
  t: hiss(0.05, 0.22),
  k: hiss(0.05, 0.2),
  f: hiss(0.1, 0.12),
  s: hiss(0.11, 0.24),
  " ": hiss(0.05, 0),
  ",": hiss(0.3, 0),
  ".": hiss(0.55, 0),
};

const TEXT = "gud ivnin, dir frends. welk@m tu d@ klosin nait @v d@ lant@rn r@gata.";

export interface Greeting {
  readonly samples: Float32Array;
  readonly sampleRate: number;
  /** Where someone speaks, in seconds: the truth for whoever looks for speech. */
  readonly spoken: readonly { readonly startSeconds: number; readonly endSeconds: number }[];
}

const LEAD_SECONDS = 0.6;

export function speakGreeting(): Greeting {
  const random = new Random(5);
  const sounds = [...TEXT].map((letter) => ({ letter, ...present(SOUNDS[letter]) }));
  const length = LEAD_SECONDS * 2 + sounds.reduce((sum, sound) => sum + sound.seconds, 0);
  const samples = new Float32Array(Math.ceil(length * SAMPLE_RATE));
  const spoken: { startSeconds: number; endSeconds: number }[] = [];
  const resonators = [new Resonator(90), new Resonator(110), new Resonator(170)];
  let at = LEAD_SECONDS;
  let phase = 0;
  let start = at;
  for (const sound of sounds) {
    const pause = sound.letter === "," || sound.letter === ".";
    if (pause) spoken.push({ startSeconds: start, endSeconds: at });
    const from = Math.round(at * SAMPLE_RATE);
    const count = Math.round(sound.seconds * SAMPLE_RATE);
    for (let i = 0; i < count; i++) {
      // The voice falls through each sentence, with a little life in it.
      const pitch = 138 - 6 * (at - start) + 4 * Math.sin((from + i) / 9000);
      phase += pitch / SAMPLE_RATE;
      const pulse = phase >= 1 ? 1 : 0;
      phase %= 1;
      const edge = Math.min(1, i / 400, (count - i) / 400);
      const breath = sound.noise * random.between(-1, 1);
      const voiced = sound.formants.length > 0 ? pulse : 0;
      const tone = resonators.reduce(
        (sum, resonator, k) => sum + resonator.next(voiced + breath * 0.2, sound.formants[k] ?? 1500) / (k + 1),
        0,
      );
      samples[from + i] = edge * ((sound.formants.length > 0 ? 0.5 * tone : 0) + breath);
    }
    at += sound.seconds;
    if (pause) start = at;
  }
  return { samples, sampleRate: SAMPLE_RATE, spoken };
}

/** A two-pole resonator of fixed bandwidth whose frequency may move. */
class Resonator {
  readonly #radius: number;
  #before = 0;
  #beforeThat = 0;

  constructor(bandwidthHz: number) {
    this.#radius = Math.exp((-Math.PI * bandwidthHz) / SAMPLE_RATE);
  }

  next(input: number, hz: number): number {
    const turn = 2 * this.#radius * Math.cos((2 * Math.PI * hz) / SAMPLE_RATE);
    const out = input + turn * this.#before - this.#radius ** 2 * this.#beforeThat;
    this.#beforeThat = this.#before;
    this.#before = out;
    return out * (1 - this.#radius) * 6;
  }
}

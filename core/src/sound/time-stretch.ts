import { type SampleSource, type Stereo, silence } from "./sample-source.ts";

/**
 * Slower or faster without another pitch: waveform similarity overlap-add (Verhelst & Roelands
 * 1993). Grains of 43 ms are laid at even distances; each is taken from where the tempo wants it,
 * give or take 11 ms. Within that it is the place that follows the grain before most smoothly.
 */

const GRAIN = 2048;
const HOP = GRAIN / 2;
/** Farthest from the wanted place, in frames. */
const TOLERANCE = 512;
/** The first search looks at every so many frames, the second one around the best of them. */
const COARSE = 4;

const WINDOW = Float32Array.from({ length: GRAIN }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / GRAIN));

/**
 * A running stretch: call `next` again and again. It begins exactly with the source's own samples.
 */
export class TimeStretch {
  readonly #source: SampleSource;
  /** Frame of the source that is wanted at a frame of the output, counted from its beginning. */
  readonly #wanted: (outFrame: number) => number;
  /** Second half of the grain before, sinking. */
  readonly #tail: Stereo;
  #outFrame = 0;
  #grainStart: number;

  constructor(source: SampleSource, wanted: (outFrame: number) => number) {
    this.#source = source;
    this.#wanted = wanted;
    const start = Math.round(wanted(0));
    this.#tail = source.read(start, HOP);
    for (const tail of this.#tail) for (let i = 0; i < HOP; i++) tail[i]! *= WINDOW[HOP + i]!;
    this.#grainStart = start - HOP;
  }

  /** The next STRETCH_HOP frames. */
  next(): Stereo {
    this.#grainStart = this.#bestStart(this.#grainStart + HOP, Math.round(this.#wanted(this.#outFrame)));
    this.#outFrame += HOP;
    const grain = this.#source.read(this.#grainStart, GRAIN);
    const out = silence(HOP);
    for (const channel of [0, 1] as const) {
      const [tail, samples, target] = [this.#tail[channel], grain[channel], out[channel]];
      for (let i = 0; i < HOP; i++) {
        target[i] = tail[i]! + samples[i]! * WINDOW[i]!;
        tail[i] = samples[HOP + i]! * WINDOW[HOP + i]!;
      }
    }
    return out;
  }

  /** Where to take the next grain: as the natural continuation goes on, near the wanted place. */
  #bestStart(natural: number, wanted: number): number {
    if (Math.abs(natural - wanted) <= 1) return natural;
    const target = mono(this.#source.read(natural, GRAIN));
    const range = mono(this.#source.read(wanted - TOLERANCE, GRAIN + 2 * TOLERANCE));
    let best = TOLERANCE;
    let highest = -Infinity;
    const consider = (offset: number, step: number): void => {
      let [product, power] = [0, 1e-9];
      for (let i = 0; i < HOP; i += step) {
        const sample = range[offset + i]!;
        product += sample * target[i]!;
        power += sample * sample;
      }
      const likeness = product / Math.sqrt(power);
      if (likeness > highest) [highest, best] = [likeness, offset];
    };
    for (let offset = 0; offset <= 2 * TOLERANCE; offset += COARSE) consider(offset, COARSE);
    const coarse = best;
    highest = -Infinity;
    for (let offset = Math.max(0, coarse - COARSE); offset <= Math.min(2 * TOLERANCE, coarse + COARSE); offset++) {
      consider(offset, 1);
    }
    return wanted - TOLERANCE + best;
  }
}

/** Frames that TimeStretch gives at a time. */
export const STRETCH_HOP = HOP;

function mono([left, right]: Stereo): Float32Array {
  const sum = new Float32Array(left.length);
  for (let i = 0; i < sum.length; i++) sum[i] = left[i]! + right[i]!;
  return sum;
}

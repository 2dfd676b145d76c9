/**
 * A high pass and a low pass of second order in series (Butterworth, by the bilinear transform).
 */
export class BandPass {
  readonly #high: Biquad;
  readonly #low: Biquad;

  constructor(lowHertz: number, highHertz: number, sampleRate: number) {
    this.#high = new Biquad("high", lowHertz, sampleRate);
    this.#low = new Biquad("low", highHertz, sampleRate);
  }

  next(sample: number): number {
    return this.#low.next(this.#high.next(sample));
  }
}

/** Direct form 2, transposed. */
class Biquad {
  readonly #b0: number;
  readonly #b1: number;
  readonly #a1: number;
  readonly #a2: number;
  #state1 = 0;
  #state2 = 0;

  constructor(kind: "high" | "low", hertz: number, sampleRate: number) {
    const k = Math.tan((Math.PI * hertz) / sampleRate);
    const norm = 1 / (1 + Math.SQRT2 * k + k * k);
    this.#b0 = kind === "low" ? k * k * norm : norm;
    this.#b1 = kind === "low" ? 2 * this.#b0 : -2 * this.#b0;
    this.#a1 = 2 * (k * k - 1) * norm;
    this.#a2 = (1 - Math.SQRT2 * k + k * k) * norm;
  }

  next(sample: number): number {
    const out = this.#b0 * sample + this.#state1;
    this.#state1 = this.#b1 * sample - this.#a1 * out + this.#state2;
    this.#state2 = this.#b0 * sample - this.#a2 * out;
    return out;
  }
}

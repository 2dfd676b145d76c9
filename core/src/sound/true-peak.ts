import type { Stereo } from "./sample-source.ts";

/**
 * The interpolating filter of ITU-R BS.1770-4, annex 2, table: 48 coefficients in four phases of twelve, from memory; true-peak.test.ts holds them against sines whose peaks lie between samples. The last two phases are the first two
 * backwards.
 */
const PHASE_0 = [
  0.001708984375, 0.010986328125, -0.0196533203125, 0.033203125, -0.0594482421875, 0.1373291015625, 0.97216796875,
  -0.102294921875, 0.047607421875, -0.026611328125, 0.014892578125, -0.00830078125,
] as const;
const PHASE_1 = [
  -0.0291748046875, 0.029296875, -0.0517578125, 0.089111328125, -0.16650390625, 0.465087890625, 0.77978515625,
  -0.2003173828125, 0.1015625, -0.0582275390625, 0.0330810546875, -0.0189208984375,
] as const;
const TAPS = 12;
const HALF = TAPS / 2;
/** Each phase divided into what is the same backwards and what turns its sign: half the work, for both directions at once. */
const evenPart = (phase: readonly number[]): Float64Array =>
  Float64Array.from({ length: HALF }, (_, k) => (phase[k]! + phase[TAPS - 1 - k]!) / 2);
const oddPart = (phase: readonly number[]): Float64Array =>
  Float64Array.from({ length: HALF }, (_, k) => (phase[k]! - phase[TAPS - 1 - k]!) / 2);
const [EVEN_0, ODD_0, EVEN_1, ODD_1] = [evenPart(PHASE_0), oddPart(PHASE_0), evenPart(PHASE_1), oddPart(PHASE_1)];
const BLOCK = 64;
/** No phase makes more of samples than this: the sum of its coefficients without their signs. */
const MOST_GAIN = Math.max(
  ...[PHASE_0, PHASE_1].map((phase) => phase.reduce<number>((sum, tap) => sum + Math.abs(tap), 0)),
);

/**
 * The largest value that sound reaches between its samples, at four times its rate, after BS.1770-4 annex 2 (48 kHz). Sound is added piece by piece. Linear, 1 is full scale. O(frames).
 */
export class TruePeakMeter {
  readonly #histories = [new History(), new History()] as const;
  #peak = 0;

  add(sound: Stereo): void {
    for (const channel of [0, 1] as const) this.#peak = this.#histories[channel].peakOf(sound[channel], this.#peak);
  }

  /** So far, without the last six samples' surroundings. */
  get peak(): number {
    return this.#peak;
  }
}

/** One channel: what is added, behind the last samples before it. */
class History {
  #samples = new Float64Array(TAPS - 1);

  /** The highest peak, or `atLeast` where none is higher. */
  peakOf(added: Float32Array, atLeast: number): number {
    const before = TAPS - 1;
    const samples = new Float64Array(before + added.length);
    samples.set(this.#samples);
    samples.set(added, before);
    this.#samples = samples.slice(-before);
    return peakBetween(samples, before, samples.length, atLeast);
  }
}

/**
 * The largest value between samples that the filter gives when the newest sample it sees goes from `from` (at least 11) to `end` (exclusive), or `atLeast` where none is larger. It lies five to six samples before the newest. O(end - from).
 */
export function peakBetween(samples: Float64Array, from: number, end: number, atLeast: number): number {
  let peak = atLeast;
  for (let start = from; start < end; start += BLOCK) {
    const stop = Math.min(end, start + BLOCK);
    let largest = 0;
    for (let i = start - TAPS + 1; i < stop; i++) largest = Math.max(largest, Math.abs(samples[i]!));
    // Most blocks are too soft to matter, whatever lies between their samples.
    if (largest * MOST_GAIN <= peak) continue;
    for (let newest = start; newest < stop; newest++) {
      let even0 = 0;
      let odd0 = 0;
      let even1 = 0;
      let odd1 = 0;
      for (let k = 0; k < HALF; k++) {
        const late = samples[newest - k]!;
        const early = samples[newest - TAPS + 1 + k]!;
        const sum = late + early;
        const difference = late - early;
        even0 += EVEN_0[k]! * sum;
        odd0 += ODD_0[k]! * difference;
        even1 += EVEN_1[k]! * sum;
        odd1 += ODD_1[k]! * difference;
      }
      // A phase and the same backwards are the sum and the difference of these: the larger of both is the sum of their sizes.
      const high0 = Math.abs(even0) + Math.abs(odd0);
      const high1 = Math.abs(even1) + Math.abs(odd1);
      if (high0 > peak) peak = high0;
      if (high1 > peak) peak = high1;
    }
  }
  return peak;
}

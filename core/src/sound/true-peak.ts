import { present } from "../presence/index.ts";
import type { Stereo } from "./sample-source.ts";

/**
 * The interpolating filter of ITU-R BS.1770-4, annex 2, table: 48 coefficients in four phases of
 * twelve, from memory; true-peak.test.ts holds them against sines whose peaks lie between samples.
 * The last two phases are the first two backwards.
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
type Phase = typeof PHASE_0 | typeof PHASE_1;
type Half = readonly [number, number, number, number, number, number];
/**
 * Each phase divided into what is the same backwards and what turns its sign: half the work, for
 * both directions at once.
 */
const evenPart = (phase: Phase): Half => halfOf((k) => (present(phase[k]) + present(phase[TAPS - 1 - k])) / 2);
const oddPart = (phase: Phase): Half => halfOf((k) => (present(phase[k]) - present(phase[TAPS - 1 - k])) / 2);
const halfOf = (tap: (k: number) => number): Half => [tap(0), tap(1), tap(2), tap(3), tap(4), tap(5)];
// As single numbers: a loop that reads no coefficient from memory takes half the time.
const [even00, even01, even02, even03, even04, even05] = evenPart(PHASE_0);
const [odd00, odd01, odd02, odd03, odd04, odd05] = oddPart(PHASE_0);
const [even10, even11, even12, even13, even14, even15] = evenPart(PHASE_1);
const [odd10, odd11, odd12, odd13, odd14, odd15] = oddPart(PHASE_1);
const BLOCK = 64;
/** No phase makes more of samples than this: the sum of its coefficients without their signs. */
const MOST_GAIN = Math.max(
  ...[PHASE_0, PHASE_1].map((phase) => phase.reduce<number>((sum, tap) => sum + Math.abs(tap), 0)),
);

/**
 * The largest value that sound reaches between its samples, at four times its rate, after BS.1770-4
 * annex 2 (48 kHz). Sound is added piece by piece. Linear, 1 is full scale. O(frames).
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
 * The largest value that the filter gives between samples, or `atLeast` where none is larger. The
 * newest sample it sees goes from `from` (at least 11) to `end` (exclusive). It lies five to six
 * samples before the newest. O(end - from).
 */
export function peakBetween(samples: Float64Array, from: number, end: number, atLeast: number): number {
  let peak = atLeast;
  for (let start = from; start < end; start += BLOCK) {
    const stop = Math.min(end, start + BLOCK);
    let largest = 0;
    for (let i = start - TAPS + 1; i < stop; i++) largest = Math.max(largest, Math.abs(samples[i]!));
    // Most blocks are too soft to matter, whatever lies between their samples.
    if (largest * MOST_GAIN > peak) peak = filteredPeak(samples, start, stop, peak);
  }
  return peak;
}

/**
 * The same by the filter, for every sample. `x0` to `x11` are the twelve samples that it sees, the
 * oldest first.
 */
function filteredPeak(samples: Float64Array, from: number, end: number, atLeast: number): number {
  let peak = atLeast;
  let [x0, x1, x2, x3, x4, x5, x6, x7, x8, x9, x10] = Array.from(samples.subarray(from - 11, from)) as Eleven;
  for (let newest = from; newest < end; newest++) {
    const x11 = samples[newest]!;
    const sum0 = x11 + x0;
    const difference0 = x11 - x0;
    const sum1 = x10 + x1;
    const difference1 = x10 - x1;
    const sum2 = x9 + x2;
    const difference2 = x9 - x2;
    const sum3 = x8 + x3;
    const difference3 = x8 - x3;
    const sum4 = x7 + x4;
    const difference4 = x7 - x4;
    const sum5 = x6 + x5;
    const difference5 = x6 - x5;
    const even0 = even00 * sum0 + even01 * sum1 + even02 * sum2 + even03 * sum3 + even04 * sum4 + even05 * sum5;
    const even1 = even10 * sum0 + even11 * sum1 + even12 * sum2 + even13 * sum3 + even14 * sum4 + even15 * sum5;
    const odd0 =
      odd00 * difference0 +
      odd01 * difference1 +
      odd02 * difference2 +
      odd03 * difference3 +
      odd04 * difference4 +
      odd05 * difference5;
    const odd1 =
      odd10 * difference0 +
      odd11 * difference1 +
      odd12 * difference2 +
      odd13 * difference3 +
      odd14 * difference4 +
      odd15 * difference5;
    // A phase and the same backwards are the sum and the difference of these: the larger of both is
    // the sum of their sizes.
    const high0 = Math.abs(even0) + Math.abs(odd0);
    const high1 = Math.abs(even1) + Math.abs(odd1);
    if (high0 > peak) peak = high0;
    if (high1 > peak) peak = high1;
    x0 = x1;
    x1 = x2;
    x2 = x3;
    x3 = x4;
    x4 = x5;
    x5 = x6;
    x6 = x7;
    x7 = x8;
    x8 = x9;
    x9 = x10;
    x10 = x11;
  }
  return peak;
}

type Eleven = [number, number, number, number, number, number, number, number, number, number, number];

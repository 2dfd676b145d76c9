import type { Stereo } from "./sample-source.ts";

/** The filters below are those of the recommendation for this rate. */
export const LOUDNESS_SAMPLE_RATE = 48_000;
/** Gating blocks of 400 ms overlap by three quarters: they are sums of four such steps. */
export const STEP_FRAMES = LOUDNESS_SAMPLE_RATE / 10;
const BLOCK_STEPS = 4;
const SHORT_TERM_STEPS = 30;
const ABSOLUTE_GATE_LUFS = -70;
const RELATIVE_GATE_LU = -10;
/**
 * EBU Tech 3342: the gate of the loudness range, and the shares of the distribution between which
 * it lies.
 */
const RANGE_GATE_LU = -20;
const RANGE_SHARES = [0.1, 0.95] as const;

export interface Loudness {
  /** Of all of it, gated; -Infinity where nothing is louder than -70 LUFS. */
  readonly integratedLufs: number;
  /**
   * Of the three seconds that end with each step of a tenth of a second, from the third second on.
   */
  readonly shortTermLufs: readonly number[];
  /** Of the 400 ms that end with each step, from the fourth on. */
  readonly momentaryLufs: readonly number[];
  /** How far loud and quiet stretches lie apart, in LU; 0 for what is too short. */
  readonly rangeLu: number;
}

/**
 * Loudness of stereo sound at 48 kHz after ITU-R BS.1770-4: K-weighting, 400 ms blocks, gates at
 * -70 LUFS and 10 LU below. Momentary and short-term after EBU Tech 3341, range after 3342. Sound
 * is added piece by piece; what does not fill a step of 100 ms at the end is left out. Memory: ten
 * numbers a second; time O(frames).
 */
export class LoudnessMeter {
  readonly #filters = [new KWeighting(), new KWeighting()] as const;
  /** Mean square of each step, both channels added. */
  readonly #steps: number[] = [];
  #sum = 0;
  #count = 0;

  add([left, right]: Stereo): void {
    const [leftFilter, rightFilter] = this.#filters;
    for (let from = 0; from < left.length; ) {
      const end = Math.min(left.length, from + STEP_FRAMES - this.#count);
      this.#sum += leftFilter.energyOf(left, from, end) + rightFilter.energyOf(right, from, end);
      this.#count += end - from;
      from = end;
      if (this.#count < STEP_FRAMES) continue;
      this.#steps.push(this.#sum / STEP_FRAMES);
      this.#sum = 0;
      this.#count = 0;
    }
  }

  result(): Loudness {
    return loudnessOf(this.#steps);
  }
}

/** Of the mean squares after weighting of steps of 100 ms, both channels added. */
export function loudnessOf(steps: readonly number[]): Loudness {
  const blocks = slidingMeans(steps, BLOCK_STEPS);
  const shortTerm = slidingMeans(steps, SHORT_TERM_STEPS);
  return {
    integratedLufs: lufsOf(gatedMean(blocks, RELATIVE_GATE_LU)),
    shortTermLufs: shortTerm.map(lufsOf),
    momentaryLufs: blocks.map(lufsOf),
    rangeLu: loudnessRange(shortTerm),
  };
}

/** BS.1770-4, formula 2: both front channels have a weight of 1. */
const lufsOf = (meanSquare: number): number => -0.691 + 10 * Math.log10(meanSquare);
const meanSquareOf = (lufs: number): number => 10 ** ((lufs + 0.691) / 10);

function slidingMeans(steps: readonly number[], length: number): number[] {
  const means: number[] = [];
  for (let end = length; end <= steps.length; end++) {
    let sum = 0;
    for (let i = end - length; i < end; i++) sum += steps[i]!;
    means.push(sum / length);
  }
  return means;
}

const meanOf = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((sum, value) => sum + value, 0) / values.length;

/**
 * Blocks above the absolute gate, and above a gate that lies so far below the loudness of those.
 */
function gated(blocks: readonly number[], relativeLu: number): number[] {
  const absolute = meanSquareOf(ABSOLUTE_GATE_LUFS);
  const audible = blocks.filter((block) => block > absolute);
  const gate = meanOf(audible) * 10 ** (relativeLu / 10);
  return audible.filter((block) => block > gate);
}

const gatedMean = (blocks: readonly number[], relativeLu: number): number => meanOf(gated(blocks, relativeLu));

function loudnessRange(shortTerm: readonly number[]): number {
  const levels = gated(shortTerm, RANGE_GATE_LU)
    .map(lufsOf)
    .sort((a, b) => a - b);
  if (levels.length === 0) return 0;
  const [low, high] = RANGE_SHARES.map((share) => levels[Math.round(share * (levels.length - 1))]!) as [number, number];
  return high - low;
}

/**
 * The two filters in series, coefficients of BS.1770-4 tables 1 and 2 for 48 kHz: the head as a
 * rigid sphere, and a high pass. Direct form 2, transposed.
 */
export class KWeighting {
  #shelf1 = 0;
  #shelf2 = 0;
  #pass1 = 0;
  #pass2 = 0;

  /**
   * The sum of squares that samples from `from` to `end` (exclusive) have behind the filters.
   * O(samples).
   */
  energyOf(samples: Float32Array, from: number, end: number): number {
    // In variables: fields would be read and written for each sample.
    let [shelf1, shelf2] = [this.#shelf1, this.#shelf2];
    let [pass1, pass2] = [this.#pass1, this.#pass2];
    let energy = 0;
    for (let i = from; i < end; i++) {
      const sample = samples[i]!;
      const shelved = 1.53512485958697 * sample + shelf1;
      shelf1 = -2.69169618940638 * sample + 1.69065929318241 * shelved + shelf2;
      shelf2 = 1.19839281085285 * sample - 0.73248077421585 * shelved;
      const passed = shelved + pass1;
      pass1 = -2 * shelved + 1.99004745483398 * passed + pass2;
      pass2 = shelved - 0.99007225036621 * passed;
      energy += passed * passed;
    }
    [this.#shelf1, this.#shelf2, this.#pass1, this.#pass2] = [shelf1, shelf2, pass1, pass2];
    return energy;
  }
}

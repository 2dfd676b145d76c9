import { itemAt } from "../presence/index.ts";
import { amplitude, decibels } from "./decibels.ts";
import { blockPeaks, LIMITER_BLOCK, LIMITER_MARGIN, limiterDecibels, PEAK_MARGIN } from "./limiter.ts";
import { KWeighting, LOUDNESS_SAMPLE_RATE, loudnessOf, STEP_FRAMES } from "./loudness.ts";
import type { SoundRenderer } from "./mastered-mix.ts";
import type { MasterWish } from "./sound-plan.ts";

/** How loud a mix is. */
export interface SoundLevels {
  /** Null for silence, and for what is shorter than 400 ms. */
  readonly integratedLufs: number | null;
  readonly rangeLu: number;
  /** Null for silence. */
  readonly truePeakDbtp: number | null;
  /**
   * Of the three seconds before each tenth of a second, from the third second on; -Infinity for
   * silence.
   */
  readonly shortTermLufs: readonly number[];
}

/** What is done to a whole mix, and how loud it was before and is then. */
export interface Master {
  readonly gainDecibels: number;
  readonly ceilingDbtp: number;
  readonly before: SoundLevels;
  readonly after: SoundLevels;
  /**
   * The lowest that the limiter's gain comes to in each tenth of a second, in decibels, 0 and less.
   */
  readonly limiterDecibels: readonly number[];
}

const STEP_BLOCKS = STEP_FRAMES / LIMITER_BLOCK;
/** A target is met as nearly as this. */
const NEAR_LU = 0.02;
const MOST_TRIES = 12;
/** What is nearly silent is not blown up to a target. */
const MOST_GAIN_DECIBELS = 30;

/**
 * Measures a mix at 48 kHz once from beginning to end. Finds the gain with which it is as loud as
 * wished, with the limiter's work counted in. The measuring goes by seconds, so that whoever asks
 * can stop or say how far it is. Time: that of mixing and filtering every frame once; memory: 750
 * numbers a second.
 */
export class MasterMeasure {
  readonly #mix: SoundRenderer;
  readonly #wish: MasterWish;
  readonly #filters = [new KWeighting(), new KWeighting()] as const;
  readonly #peaks: Float32Array;
  /** Sum of squares after weighting in each block, both channels added. */
  readonly #energies: Float32Array;
  #block = 0;

  constructor(mix: SoundRenderer, wish: MasterWish) {
    this.#mix = mix;
    this.#wish = wish;
    this.#peaks = new Float32Array(Math.ceil(mix.frameCount / LIMITER_BLOCK));
    this.#energies = new Float32Array(this.#peaks.length);
  }

  /** 0 to 1. */
  get progress(): number {
    return this.#peaks.length === 0 ? 1 : this.#block / this.#peaks.length;
  }

  get done(): boolean {
    return this.#block >= this.#peaks.length;
  }

  /** Listens to one second more. */
  step(): void {
    const blocks = Math.min(LOUDNESS_SAMPLE_RATE / LIMITER_BLOCK, this.#peaks.length - this.#block);
    const count = blocks * LIMITER_BLOCK;
    const sound = this.#mix.render(this.#block * LIMITER_BLOCK - PEAK_MARGIN, count + 2 * PEAK_MARGIN);
    this.#peaks.set(blockPeaks(sound), this.#block);
    for (const [channel, filter] of this.#filters.entries()) {
      const samples = itemAt(sound, channel);
      for (let block = 0; block < blocks; block++) {
        const from = PEAK_MARGIN + block * LIMITER_BLOCK;
        this.#energies[this.#block + block]! += filter.energyOf(samples, from, from + LIMITER_BLOCK);
      }
    }
    this.#block += blocks;
  }

  /** Once all is heard. */
  result(): Master {
    const { targetLufs, ceilingDbtp } = this.#wish;
    // The limiter has silence before and behind the film.
    const padded = new Float32Array(this.#peaks.length + 2 * LIMITER_MARGIN);
    padded.set(this.#peaks, LIMITER_MARGIN);
    const plain = levelsOf(this.#energies, this.#peaks, null);
    let gainDecibels = 0;
    let limited = this.#limited(padded, gainDecibels);
    let after = levelsOf(this.#energies, this.#peaks, { gainDecibels, boundaries: limited });
    if (targetLufs !== null) {
      for (let i = 0; i < MOST_TRIES && after.integratedLufs !== null; i++) {
        const missing = targetLufs - after.integratedLufs;
        const next = Math.max(-MOST_GAIN_DECIBELS, Math.min(MOST_GAIN_DECIBELS, gainDecibels + missing));
        if (Math.abs(missing) < NEAR_LU || next === gainDecibels) break;
        gainDecibels = next;
        limited = this.#limited(padded, gainDecibels);
        after = levelsOf(this.#energies, this.#peaks, { gainDecibels, boundaries: limited });
      }
    }
    return { gainDecibels, ceilingDbtp, before: plain, after, limiterDecibels: lowestInSteps(limited) };
  }

  #limited(padded: Float32Array, gainDecibels: number): Float32Array {
    return limiterDecibels(padded, gainDecibels, this.#wish.ceilingDbtp, LOUDNESS_SAMPLE_RATE).boundaries;
  }
}

interface Treatment {
  readonly gainDecibels: number;
  readonly boundaries: Float32Array;
}

/**
 * Levels from the energies and peaks of blocks, which are short enough for their gain to be one
 * number.
 */
function levelsOf(energies: Float32Array, peaks: Float32Array, treatment: Treatment | null): SoundLevels {
  const powerOf = (block: number): number => {
    if (!treatment) return 1;
    const { gainDecibels, boundaries } = treatment;
    return amplitude(gainDecibels + (itemAt(boundaries, block) + itemAt(boundaries, block + 1)) / 2) ** 2;
  };
  const steps = Array.from({ length: Math.floor(energies.length / STEP_BLOCKS) }, (_, step) => {
    let sum = 0;
    for (let block = step * STEP_BLOCKS; block < (step + 1) * STEP_BLOCKS; block++)
      sum += itemAt(energies, block) * powerOf(block);
    return sum / STEP_FRAMES;
  });
  let peak = 0;
  for (let block = 0; block < peaks.length; block++)
    peak = Math.max(peak, itemAt(peaks, block) * (treatment ? Math.sqrt(powerOf(block)) : 1));
  const { integratedLufs, rangeLu, shortTermLufs } = loudnessOf(steps);
  return {
    integratedLufs: Number.isFinite(integratedLufs) ? integratedLufs : null,
    rangeLu,
    truePeakDbtp: peak > 0 ? decibels(peak) : null,
    shortTermLufs,
  };
}

function lowestInSteps(boundaries: Float32Array): number[] {
  return Array.from({ length: Math.ceil(boundaries.length / STEP_BLOCKS) }, (_, step) =>
    boundaries
      .subarray(step * STEP_BLOCKS, (step + 1) * STEP_BLOCKS)
      .reduce((lowest, level) => Math.min(lowest, level), 0),
  );
}

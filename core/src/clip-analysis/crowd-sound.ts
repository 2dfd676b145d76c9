import { hannWindow, MagnitudeSpectrum } from "../music/index.ts";
import { median } from "../numeric/index.ts";
import { itemAt } from "../presence/index.ts";
import { decibels } from "../sound/index.ts";
import type { Seconds } from "../time/index.ts";
import { WATCHED_STEP_SECONDS } from "./clip-series.ts";

/** Hands and voices of many are heard here; bumps, wind and the bass of music lie below. */
const [LOWEST_HERTZ, HIGHEST_HERTZ] = [900, 6000];
/** As good as silent. */
const FLOOR_DECIBELS = -75;
/** At 48 kHz a little longer than a step, so that no clap falls between two of them. */
const WINDOW_SAMPLES = 2048;

/** What is heard of a clip where crowds are heard, a number for each whole step. */
export interface CrowdSound {
  /** Decibels, against full scale in all of the range. */
  readonly levels: readonly number[];
  /**
   * Geometric against arithmetic mean of the range's power, 0 to 1 (Wiener entropy): some 0.56 for
   * noise, far less for one voice or an instrument.
   */
  readonly flatness: readonly number[];
}

/** Listens to a clip at 48 kHz, piece by piece. */
export class CrowdMeter {
  readonly #spectrum = new MagnitudeSpectrum(hannWindow(WINDOW_SAMPLES, 1));
  readonly #stepSamples: number;
  readonly #bins: readonly [first: number, last: number];
  readonly #levels: number[] = [];
  readonly #flatness: number[] = [];
  /** The newest samples; as many as a window and a step. */
  readonly #recent: Float32Array;
  #waiting = 0;

  constructor(sampleRate: number) {
    this.#stepSamples = Math.round(sampleRate * WATCHED_STEP_SECONDS);
    this.#recent = new Float32Array(WINDOW_SAMPLES + this.#stepSamples);
    const bin = (hertz: number): number => Math.round((hertz * WINDOW_SAMPLES) / sampleRate);
    this.#bins = [bin(LOWEST_HERTZ), bin(HIGHEST_HERTZ)];
  }

  add(left: Float32Array, right: Float32Array): void {
    for (let i = 0; i < left.length; i++) {
      this.#recent[WINDOW_SAMPLES + this.#waiting] = 0.5 * (left[i]! + right[i]!);
      if (++this.#waiting < this.#stepSamples) continue;
      this.#measure();
      this.#recent.copyWithin(0, this.#stepSamples);
      this.#waiting = 0;
    }
  }

  #measure(): void {
    this.#spectrum.take(this.#recent, this.#stepSamples);
    const [first, last] = this.#bins;
    let [sum, logarithms] = [0, 0];
    for (let bin = first; bin <= last; bin++) {
      const power = this.#spectrum.magnitudes[bin]! ** 2 + 1e-12;
      sum += power;
      logarithms += Math.log(power);
    }
    const mean = sum / (last - first + 1);
    this.#flatness.push(Math.exp(logarithms / (last - first + 1)) / mean);
    // A sine of full scale has a quarter of the window as its magnitude.
    this.#levels.push(Math.max(FLOOR_DECIBELS, decibels((4 * Math.sqrt(sum)) / WINDOW_SAMPLES)));
  }

  result(): CrowdSound {
    return { levels: this.#levels, flatness: this.#flatness };
  }
}

/** Where a crowd begins to be heard, and by how many decibels it is louder than what was before. */
export interface CrowdOnset {
  readonly seconds: Seconds;
  readonly riseDecibels: number;
}

const steps = (seconds: Seconds): number => Math.round(seconds / WATCHED_STEP_SECONDS);

const BEFORE_STEPS = steps(1.5);
const BEHIND_STEPS = steps(1.2);
/** Nearly all of a cheer is loud; speech is as soft as the room between its words. */
const SOFTEST_SHARE = 0.15;
/** Half of what was before is softer than this, words or not. */
const MIDDLE_SHARE = 0.5;
/** Nearly all of what was before is softer than this. */
const LOUDEST_SHARE = 0.85;
const LEAST_RISE_DECIBELS = 6;
/** Less flat than this it is one voice, or music. */
const LEAST_FLATNESS = 0.25;
/** A crowd swells for so long at most before it counts as there. */
const SWELL_STEPS = steps(0.8);
/** What is louder than before by this belongs to the swell. */
const FIRST_RISE_DECIBELS = 3;
/** Two beginnings are at least so far from each other. */
const APART_STEPS = steps(2);

/**
 * Where applause or cheers begin: from there on, for a second, it sounds like noise, and nearly
 * every step is louder than half of what was before. So neither words nor bumps nor music count.
 * Rising times. O(steps).
 */
export function crowdOnsets({ levels, flatness }: CrowdSound): CrowdOnset[] {
  const onsets: { step: number; rise: number }[] = [];
  for (let step = steps(0.4); step + BEHIND_STEPS / 2 <= levels.length; step++) {
    const rise = riseAt(levels, step);
    if (rise < LEAST_RISE_DECIBELS) continue;
    if (median(flatness.slice(step, step + BEHIND_STEPS)) < LEAST_FLATNESS) continue;
    const last = onsets.at(-1);
    if (!last || step - last.step > APART_STEPS) onsets.push({ step, rise });
    else if (rise > last.rise) onsets[onsets.length - 1] = { step, rise };
  }
  return onsets.map(({ step, rise }) => ({
    seconds: beginning({ levels, flatness }, step) * WATCHED_STEP_SECONDS,
    riseDecibels: rise,
  }));
}

function riseAt(levels: readonly number[], step: number): number {
  const before = shareOf(levels.slice(Math.max(0, step - BEFORE_STEPS), step), MIDDLE_SHARE);
  return shareOf(levels.slice(step, step + BEHIND_STEPS), SOFTEST_SHARE) - before;
}

/**
 * The step from which on, without a gap, all sounds like noise and is louder than what was heard
 * before the swell.
 */
function beginning({ levels, flatness }: CrowdSound, step: number): number {
  const from = Math.max(0, step - SWELL_STEPS);
  const before = shareOf(levels.slice(Math.max(0, from - BEFORE_STEPS), from + 1), LOUDEST_SHARE);
  const isCrowd = (at: number): boolean =>
    itemAt(levels, at) > before + FIRST_RISE_DECIBELS && median(flatness.slice(at, at + 5)) > LEAST_FLATNESS;
  let first = step;
  while (first + 1 < levels.length && first < step + SWELL_STEPS && !isCrowd(first)) first++;
  while (first > from && isCrowd(first - 1)) first--;
  return first;
}

function shareOf(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.round(share * (sorted.length - 1))] ?? FLOOR_DECIBELS;
}

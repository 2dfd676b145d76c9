import { amplitude } from "./decibels.ts";
import {
  applyLimiter,
  blockPeaks,
  LIMITER_BLOCK,
  LIMITER_MARGIN,
  LIMITER_MEMORY_BLOCKS,
  limiterDecibels,
  PEAK_MARGIN,
  REACH,
} from "./limiter.ts";
import { type Stereo, silence } from "./sample-source.ts";

/** Anything that gives sound at any place, the same each time. */
export interface SoundRenderer {
  readonly frameCount: number;
  /**
   * `count` frames from frame `first` on, which may lie before the beginning; outside there is
   * silence.
   */
  render(first: number, count: number): Stereo;
}

/**
 * A mix at its final level, with its peaks held under a ceiling: every frame always comes out the
 * same, however it is asked for. What follows right behind the last asked for costs only itself; a
 * jump costs a second of mix more.
 */
export class MasteredMix implements SoundRenderer {
  readonly #mix: SoundRenderer;
  readonly #sampleRate: number;
  readonly #gainDecibels: number;
  readonly #ceilingDbtp: number;
  /** Of the limiter after the last call: the level of each block from `firstBlock` on. */
  #levels: { readonly firstBlock: number; readonly values: Float32Array } = {
    firstBlock: 0,
    values: new Float32Array(0),
  };

  constructor(mix: SoundRenderer, sampleRate: number, gainDecibels: number, ceilingDbtp: number) {
    this.#mix = mix;
    this.#sampleRate = sampleRate;
    this.#gainDecibels = gainDecibels;
    this.#ceilingDbtp = ceilingDbtp;
  }

  get frameCount(): number {
    return this.#mix.frameCount;
  }

  render(first: number, count: number): Stereo {
    if (count <= 0) return silence(0);
    const firstBlock = Math.floor(first / LIMITER_BLOCK);
    const blocks = Math.ceil((first + count) / LIMITER_BLOCK) - firstBlock;
    const known = this.#levels.values[firstBlock - REACH - 2 - this.#levels.firstBlock];
    const extra = known === undefined ? LIMITER_MEMORY_BLOCKS : 0;
    const peaksFrom = firstBlock - LIMITER_MARGIN - extra;
    const sound = this.#mix.render(
      peaksFrom * LIMITER_BLOCK - PEAK_MARGIN,
      (extra + blocks + 2 * LIMITER_MARGIN) * LIMITER_BLOCK + 2 * PEAK_MARGIN,
    );
    const { boundaries, levels } = limiterDecibels(
      // A peak that stays under the ceiling asks for nothing, however low it is.
      blockPeaks(sound, amplitude(this.#ceilingDbtp - this.#gainDecibels)),
      this.#gainDecibels,
      this.#ceilingDbtp,
      this.#sampleRate,
      known ?? 0,
    );
    this.#levels = { firstBlock: peaksFrom + REACH, values: levels };
    const from = PEAK_MARGIN + (LIMITER_MARGIN + extra) * LIMITER_BLOCK;
    const inside = first - firstBlock * LIMITER_BLOCK;
    return sound.map((channel) => {
      const whole = channel.subarray(from, from + blocks * LIMITER_BLOCK);
      applyLimiter(whole, extra, boundaries, this.#gainDecibels);
      return whole.slice(inside, inside + count);
    }) as unknown as Stereo;
  }
}

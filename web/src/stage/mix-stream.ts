import {
  MasteredMix,
  ownerKey,
  type SampleSource,
  SoundMixer,
  type SoundPlan,
  type SoundRenderer,
  type Stereo,
  TimeStretch,
} from "@humming-tide/core/sound";

/** A click of the click track: the first of a bar is higher. */
export interface Click {
  readonly seconds: number;
  readonly first: boolean;
}

/** What is to be heard, from where, how fast, and with what beside it. */
export interface StreamWish {
  readonly sound: SoundPlan;
  readonly fromSeconds: number;
  /** 0.5 to 1; the pitch stays. */
  readonly speed: number;
  /** Played round and round; null: to the end. */
  readonly loop: { readonly startSeconds: number; readonly endSeconds: number } | null;
  readonly clicks: readonly Click[];
  /** 0 to 1; 0 is without. */
  readonly clickGain: number;
  /** Of the whole mix, where the plan has a master (measureMaster). */
  readonly masterDecibels: number;
  /** Owners that are heard alone, as ownerKey names them; none: all. */
  readonly soloed: readonly string[];
}

/** A piece of sound that is to be played as it is, and the stretch of time that is heard in it. */
export interface MixChunk {
  readonly channels: Stereo;
  readonly fromSeconds: number;
  readonly toSeconds: number;
  /** Nothing follows. */
  readonly ends: boolean;
  /** Highest samples: of what is heard, and of each owner before the master. */
  readonly peaks: { readonly whole: number; readonly owners: Readonly<Record<string, number>> };
}

/** Of one piece as it is heard. */
export const CHUNK_SECONDS = 0.2;
const SHORTEST_LOOP_SECONDS = 0.05;
/** Times this near are the same: they are sums of many chunks. */
const SLACK_SECONDS = 1e-6;
const CLICK_SECONDS = 0.03;
const CLICK_HERTZ = { first: 1760, other: 1175 };

/**
 * Turns a wish into sound, chunk after chunk. Clicks are laid over after stretching, so that they
 * stay sharp and exactly on their beat.
 */
export class MixStream {
  readonly #wish: StreamWish;
  readonly #loop: StreamWish["loop"];
  readonly #sampleRate: number;
  readonly #mixer: SoundMixer;
  readonly #whole: SoundRenderer;
  #atSeconds: number;
  #stretch: TimeStretch | null = null;
  /** Stretched sound that was made but not yet given. */
  #rest: Stereo = [new Float32Array(0), new Float32Array(0)];

  constructor(wish: StreamWish, sampleRate: number, sourceOf: (songSha256: string) => SampleSource) {
    this.#wish = wish;
    const { loop, sound } = wish;
    const end = loop ? Math.min(loop.endSeconds, sound.lengthSeconds) : 0;
    // A loop that lies behind the end, or is too short to be heard, is none.
    this.#loop = loop && end - loop.startSeconds >= SHORTEST_LOOP_SECONDS ? { ...loop, endSeconds: end } : null;
    this.#sampleRate = sampleRate;
    const { soloed } = wish;
    const pieces = sound.pieces.filter(({ owner }) => soloed.length === 0 || soloed.includes(ownerKey(owner)));
    this.#mixer = new SoundMixer({ ...sound, pieces }, sampleRate, sourceOf);
    this.#whole = sound.master
      ? new MasteredMix(this.#mixer, sampleRate, wish.masterDecibels, sound.master.ceilingDbtp)
      : this.#mixer;
    this.#atSeconds = wish.fromSeconds;
  }

  next(): MixChunk {
    const { speed, sound } = this.#wish;
    const loop = this.#loop;
    if (loop && this.#atSeconds >= loop.endSeconds - SLACK_SECONDS) this.#jump(loop.startSeconds);
    const end = loop ? loop.endSeconds : sound.lengthSeconds;
    const fromSeconds = this.#atSeconds;
    const toSeconds = Math.min(end, fromSeconds + CHUNK_SECONDS * speed);
    const count = Math.max(1, Math.round(((toSeconds - fromSeconds) / speed) * this.#sampleRate));
    const channels =
      speed === 1 ? this.#whole.render(Math.round(fromSeconds * this.#sampleRate), count) : this.#stretched(count);
    const peaks = { whole: peakOf(channels), owners: Object.fromEntries(this.#mixer.peaks) };
    this.#click(channels, fromSeconds);
    this.#atSeconds = toSeconds;
    return { channels, fromSeconds, toSeconds, ends: !loop && toSeconds >= end - SLACK_SECONDS, peaks };
  }

  #jump(seconds: number): void {
    this.#atSeconds = seconds;
    this.#stretch = null;
    this.#rest = [new Float32Array(0), new Float32Array(0)];
  }

  #stretched(count: number): Stereo {
    if (!this.#stretch) {
      const start = this.#atSeconds * this.#sampleRate;
      const source: SampleSource = {
        frameCount: this.#whole.frameCount,
        read: (from, frames) => this.#whole.render(from, frames),
      };
      this.#stretch = new TimeStretch(source, (frame) => start + frame * this.#wish.speed);
    }
    const out: Stereo = [new Float32Array(count), new Float32Array(count)];
    let filled = 0;
    while (filled < count) {
      if (this.#rest[0].length === 0) this.#rest = this.#stretch.next();
      const taken = Math.min(count - filled, this.#rest[0].length);
      for (const channel of [0, 1] as const) out[channel].set(this.#rest[channel].subarray(0, taken), filled);
      this.#rest = [this.#rest[0].subarray(taken), this.#rest[1].subarray(taken)];
      filled += taken;
    }
    return out;
  }

  #click([left, right]: Stereo, fromSeconds: number): void {
    const { clicks, clickGain, speed } = this.#wish;
    if (clickGain <= 0) return;
    for (const { seconds, first } of clicks) {
      const start = Math.round(((seconds - fromSeconds) / speed) * this.#sampleRate);
      const length = Math.round(CLICK_SECONDS * this.#sampleRate);
      if (start >= left.length || start + length <= 0) continue;
      const step = (2 * Math.PI * (first ? CLICK_HERTZ.first : CLICK_HERTZ.other)) / this.#sampleRate;
      for (let i = Math.max(0, -start); i < length && start + i < left.length; i++) {
        const sample = 0.6 * clickGain * Math.sin(step * i) * (1 - i / length) ** 3;
        left[start + i]! += sample;
        right[start + i]! += sample;
      }
    }
  }
}

const peakOf = (channels: Stereo): number =>
  channels.reduce((peak, samples) => samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), peak), 0);

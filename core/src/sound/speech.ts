import type { Seconds } from "../time/index.ts";
import { BandPass } from "./band-pass.ts";
import { decibels } from "./decibels.ts";
import { LoudnessMeter } from "./loudness.ts";
import type { Stereo } from "./sample-source.ts";

export interface SpokenStretch {
  readonly startSeconds: Seconds;
  /** Exclusive. */
  readonly endSeconds: Seconds;
}

/** What is known of a recording in which someone may speak. */
export interface SpeechFacts {
  readonly durationSeconds: Seconds;
  /** Where someone speaks, in rising order; empty where nobody does. */
  readonly stretches: readonly SpokenStretch[];
  /** Integrated loudness; null for silence. */
  readonly lufs: number | null;
  /** Of what is heard between the words, in dBFS; null where there is nothing between. */
  readonly noiseDecibels: number | null;
}

const FRAME_SECONDS = 0.01;
/** Below this a recording is as good as silent. */
const FLOOR_DECIBELS = -75;
const SOFTEST_SPEECH_DECIBELS = -55;
/** Syllables rise and fall by far more than this; a hum or a hiss does not. */
const LEAST_CONTRAST_DECIBELS = 12;
/** Where between what is heard in pauses and the loudest syllables speech begins. */
const THRESHOLD_SHARE = 0.35;
/** Between syllables, and between words that belong together. */
const LONGEST_PAUSE_SECONDS = 0.25;
/** Shorter than this it is a click or a bump. */
const SHORTEST_SPEECH_SECONDS = 0.12;
/** Soft first and last sounds lie under the threshold. */
const EDGE_SECONDS = 0.03;

/**
 * Finds where someone speaks in a recording at 48 kHz, added piece by piece: by the level between
 * 120 Hz and 4 kHz, where voices lie, against the noise of the recording itself. So neither the
 * file's edges nor a hum count. It can not tell speech from singing or music. O(frames); memory: a
 * hundred numbers a second.
 */
export class SpeechFinder {
  readonly #sampleRate: number;
  readonly #frameLength: number;
  readonly #band: BandPass;
  readonly #loudness = new LoudnessMeter();
  readonly #levels: number[] = [];
  #sum = 0;
  #count = 0;
  #frames = 0;

  constructor(sampleRate: number) {
    this.#sampleRate = sampleRate;
    this.#frameLength = Math.round(FRAME_SECONDS * sampleRate);
    this.#band = new BandPass(120, 4000, sampleRate);
  }

  add(sound: Stereo): void {
    this.#loudness.add(sound);
    const [left, right] = sound;
    this.#frames += left.length;
    for (let i = 0; i < left.length; i++) {
      const sample = this.#band.next(0.5 * (left[i]! + right[i]!));
      this.#sum += sample * sample;
      if (++this.#count < this.#frameLength) continue;
      this.#levels.push(Math.max(FLOOR_DECIBELS, decibels(Math.sqrt(this.#sum / this.#frameLength))));
      this.#sum = 0;
      this.#count = 0;
    }
  }

  result(): SpeechFacts {
    const durationSeconds = this.#frames / this.#sampleRate;
    const { integratedLufs } = this.#loudness.result();
    const lufs = Number.isFinite(integratedLufs) ? integratedLufs : null;
    const sorted = [...this.#levels].sort((a, b) => a - b);
    const at = (share: number): number => sorted[Math.floor(share * (sorted.length - 1))] ?? FLOOR_DECIBELS;
    const [noise, top] = [at(0.1), at(0.95)];
    if (top < SOFTEST_SPEECH_DECIBELS || top - noise < LEAST_CONTRAST_DECIBELS)
      return { durationSeconds, stretches: [], lufs, noiseDecibels: noise > FLOOR_DECIBELS ? noise : null };
    const threshold = noise + THRESHOLD_SHARE * (top - noise);
    return {
      durationSeconds,
      stretches: stretchesAbove(this.#levels, threshold, durationSeconds),
      lufs,
      noiseDecibels: noise > FLOOR_DECIBELS ? noise : null,
    };
  }
}

function stretchesAbove(levels: readonly number[], threshold: number, durationSeconds: Seconds): SpokenStretch[] {
  const runs: { start: number; end: number; loud: number }[] = [];
  for (const [frame, level] of levels.entries()) {
    if (level < threshold) continue;
    const last = runs.at(-1);
    if (last && (frame - last.end) * FRAME_SECONDS <= LONGEST_PAUSE_SECONDS) {
      last.end = frame + 1;
      last.loud++;
    } else runs.push({ start: frame, end: frame + 1, loud: 1 });
  }
  return runs
    .filter(({ loud }) => loud * FRAME_SECONDS >= SHORTEST_SPEECH_SECONDS)
    .map(({ start, end }) => ({
      startSeconds: Math.max(0, start * FRAME_SECONDS - EDGE_SECONDS),
      endSeconds: Math.min(durationSeconds, end * FRAME_SECONDS + EDGE_SECONDS),
    }));
}

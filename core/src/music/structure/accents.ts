import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import { refineToOnset } from "../beats/index.ts";
import { HOP_SECONDS, type MonoAudio } from "../signal/index.ts";

export interface Accent {
  readonly seconds: Seconds;
  /**
   * 0 to 1 against the song's other accents: a quarter of them have 0.5 or more, one in fifty has
   * 1. One crash shall not make all others weak, and a drum on every beat is no accent of its own.
   */
  readonly strength: number;
}

const NEIGHBOURHOOD_SECONDS = 0.4;
/** Onsets nearer to each other than this are one. */
const ONSET_NEIGHBOURHOOD_SECONDS = 0.05;
/** An onset of any kind stands out over the song's mean onset strength. */
const MINIMUM_ONSET_STRENGTH = 1;
/** An accent stands out at least this far over the mean onset strength, which is 1. */
const MINIMUM_STRENGTH = 4;

/** Shares of the accents that are weaker than a strength of 0.5, and of 1. */
const STRONG_SHARE = 0.75;
const STRONGEST_SHARE = 0.98;

/**
 * Onsets that are the strongest within 0.4 s to both sides and four times the song's mean, the
 * earlier of equals; each is placed on its attack. `onsets` is the strength per hop of `audio`.
 */
export function findAccents(audio: MonoAudio, onsets: Float32Array): Accent[] {
  const found = strongestWithin(audio, onsets, NEIGHBOURHOOD_SECONDS, MINIMUM_STRENGTH);
  const rising = found.map(({ strength }) => strength).sort((a, b) => a - b);
  const valueAt = (share: number): number => rising[Math.floor(share * (rising.length - 1))] ?? 0;
  const [strong, strongest] = [valueAt(STRONG_SHARE), valueAt(STRONGEST_SHARE)];
  return found.map(({ seconds, strength }) => ({
    seconds,
    strength:
      strength < strong
        ? (0.5 * strength) / strong
        : Math.min(1, 0.5 + (0.5 * (strength - strong)) / Math.max(1e-6, strongest - strong)),
  }));
}

/**
 * Where anything is struck or begins: onsets that are the strongest within 50 ms, on their attacks,
 * in rising order.
 */
export function findOnsets(audio: MonoAudio, onsets: Float32Array): number[] {
  const times = strongestWithin(audio, onsets, ONSET_NEIGHBOURHOOD_SECONDS, MINIMUM_ONSET_STRENGTH).map(
    ({ seconds }) => seconds,
  );
  times.sort((a, b) => a - b);
  return times.filter((seconds, i) => i === 0 || seconds - itemAt(times, i - 1) > HOP_SECONDS / 2);
}

/** Peaks with their onset strength, against the song's mean of 1. */
function strongestWithin(
  audio: MonoAudio,
  onsets: Float32Array,
  reachSeconds: Seconds,
  minimumStrength: number,
): Accent[] {
  const reach = Math.round(reachSeconds / HOP_SECONDS);
  const accents: Accent[] = [];
  for (let hop = 0; hop < onsets.length; hop++) {
    const value = itemAt(onsets, hop);
    if (value < minimumStrength) continue;
    let peak = true;
    for (let i = Math.max(0, hop - reach); peak && i <= Math.min(onsets.length - 1, hop + reach); i++) {
      if (itemAt(onsets, i) > value || (onsets[i] === value && i < hop)) peak = false;
    }
    if (!peak) continue;
    const { seconds } = refineToOnset(audio, hop * HOP_SECONDS);
    accents.push({ seconds, strength: value });
  }
  return accents;
}

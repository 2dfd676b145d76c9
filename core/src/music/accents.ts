import { HOP_SECONDS, type MonoAudio } from "./audio.ts";
import { refineToOnset } from "./onset-refinement.ts";

export interface Accent {
  readonly seconds: number;
  /** 0 to 1, where 1 is the strongest onset of the song. */
  readonly strength: number;
}

const NEIGHBOURHOOD_SECONDS = 0.4;
/** An accent stands out at least this far over the mean onset strength, which is 1. */
const MINIMUM_STRENGTH = 4;

/**
 * Onsets that are the strongest within 0.4 s to both sides and four times the song's mean, the earlier of equals; each is
 * placed on its attack. `onsets` is the strength per hop of `audio`.
 */
export function findAccents(audio: MonoAudio, onsets: Float32Array): Accent[] {
  const reach = Math.round(NEIGHBOURHOOD_SECONDS / HOP_SECONDS);
  let strongest = 0;
  for (const value of onsets) strongest = Math.max(strongest, value);
  const accents: Accent[] = [];
  for (let hop = 0; hop < onsets.length; hop++) {
    const value = onsets[hop]!;
    if (value < MINIMUM_STRENGTH) continue;
    let peak = true;
    for (let i = Math.max(0, hop - reach); peak && i <= Math.min(onsets.length - 1, hop + reach); i++) {
      if (onsets[i]! > value || (onsets[i] === value && i < hop)) peak = false;
    }
    if (!peak) continue;
    const { seconds } = refineToOnset(audio, hop * HOP_SECONDS);
    accents.push({ seconds, strength: value / strongest });
  }
  return accents;
}

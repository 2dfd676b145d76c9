import { HOP_SECONDS } from "./audio.ts";

export interface Accent {
  readonly seconds: number;
  /** 0 to 1, where 1 is the strongest onset of the song. */
  readonly strength: number;
}

const NEIGHBOURHOOD_SECONDS = 0.4;
/** An accent stands out at least this far over the mean onset strength, which is 1. */
const MINIMUM_STRENGTH = 4;

/** Onsets that are the strongest within 0.4 s to both sides and four times the song's mean. The earlier of equals. */
export function findAccents(onsets: Float32Array): Accent[] {
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
    if (peak) accents.push({ seconds: hop * HOP_SECONDS, strength: value / strongest });
  }
  return accents;
}

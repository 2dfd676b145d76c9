import { median } from "../../numeric/index.ts";
import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import { type EnergyCurve, SILENT_LEVEL } from "../signal/index.ts";

/** How a song ends. */
export interface Ending {
  /**
   * `chord`: a last sound that rings out. `fade`: turned down while it goes on. `cut`: breaks off.
   * `none`: silence throughout.
   */
  readonly kind: "chord" | "fade" | "cut" | "none";
  /** Where nothing can be heard any more. */
  readonly endSeconds: Seconds;
  /** Where the last chord begins or the fade sets in; for a cut, its end. */
  readonly fromSeconds: Seconds;
}

/** Softer than this against the loudest tenth of a second, it is heard as silence: 45 dB. */
const SILENCE_RATIO = 10 ** (-45 / 20);
/**
 * Louder than this in the last tenth of a second before silence, music breaks off: 12 dB below its
 * usual level.
 */
const CUT_RATIO = 10 ** (-12 / 20);
/** A fade loses at least 15 dB in at least four seconds, and never gets much louder on the way. */
const FADE_DECIBELS = 15;
const SHORTEST_FADE_SECONDS = 4;
const FADE_RISE_DECIBELS = 2.5;
const SMOOTH_SECONDS = 1.5;
/** A fade whose loudest beats are still struck is no chord ringing out: onsets go on in it. */
const FADE_ONSETS_PER_SECOND = 0.8;
/** How far before the end the last struck sound is looked for. */
const LAST_CHORD_SECONDS = 12;

/**
 * Where the music really ends, and how. `onsetSeconds` are the clear onsets of the song, rising;
 * the last of them begins the last chord. What sounds from `applauseSeconds` on is no music
 * (applauseStart). Pure; O(length of the curve).
 */
export function findEnding(
  energy: EnergyCurve,
  onsetSeconds: readonly Seconds[],
  durationSeconds: Seconds,
  applauseSeconds: Seconds | null,
): Ending {
  const { stepSeconds } = energy;
  const values = energy.values.slice(0, Math.round((applauseSeconds ?? durationSeconds) / stepSeconds) + 1);
  const loudest = Math.max(0, ...values);
  if (loudest < SILENT_LEVEL) return { kind: "none", endSeconds: 0, fromSeconds: 0 };
  const last = values.findLastIndex((value) => value > loudest * SILENCE_RATIO);
  const endSeconds = Math.min(durationSeconds, (last + 1) * stepSeconds);
  const fadeFrom = fadeStart(values, stepSeconds, last);
  if (fadeFrom !== null) {
    const struck = onsetSeconds.filter((at) => at > fadeFrom + 0.5 && at < endSeconds).length;
    if (struck >= FADE_ONSETS_PER_SECOND * (endSeconds - fadeFrom))
      return { kind: "fade", endSeconds, fromSeconds: fadeFrom };
  }
  const usual = median(values.filter((value) => value > loudest * SILENCE_RATIO));
  if (applauseSeconds === null && itemAt(values, last) > usual * CUT_RATIO)
    return { kind: "cut", endSeconds, fromSeconds: endSeconds };
  const lastOnset = onsetSeconds.findLast((at) => at < endSeconds - 0.1) ?? endSeconds;
  return { kind: "chord", endSeconds, fromSeconds: Math.max(lastOnset, endSeconds - LAST_CHORD_SECONDS) };
}

/** Seconds from which the level only falls to the end, or null where that is no fade. */
function fadeStart(values: readonly number[], stepSeconds: Seconds, last: number): number | null {
  const reach = Math.round(SMOOTH_SECONDS / stepSeconds / 2);
  const levels = values.map((_, i) => {
    let sum = 1e-12;
    for (let k = Math.max(0, i - reach); k <= Math.min(last, i + reach); k++) sum += itemAt(values, k) ** 2;
    return 10 * Math.log10(sum / (2 * reach + 1));
  });
  let lowestAfter = itemAt(levels, last);
  let start = last;
  for (let i = last; i >= 0; i--) {
    // Going back in time a fade rises; where it falls clearly below what it was, the fade had not
    // begun.
    if (itemAt(levels, i) < lowestAfter - FADE_RISE_DECIBELS) break;
    if (itemAt(levels, i) > lowestAfter + 0.05) start = i;
    lowestAfter = Math.max(lowestAfter, itemAt(levels, i));
  }
  const fell = itemAt(levels, start) - itemAt(levels, last);
  return fell >= FADE_DECIBELS && (last - start) * stepSeconds >= SHORTEST_FADE_SECONDS ? start * stepSeconds : null;
}

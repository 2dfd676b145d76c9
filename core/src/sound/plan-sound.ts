/** Gain over film time as straight lines between points, in order of time; before the first and after the last it holds. */
export type GainCurve = readonly { readonly seconds: number; readonly gain: number }[];

export interface SoundPlan {
  readonly songSha256: string;
  /** Where the song begins in the film, and which of its seconds is heard there. */
  readonly filmStartSeconds: number;
  readonly songStartSeconds: number;
  readonly lengthSeconds: number;
  readonly gain: GainCurve;
  readonly fadeOut: { readonly startSeconds: number; readonly endSeconds: number };
}

/** A fade shorter than this sounds like a cut. */
const SHORTEST_FADE_SECONDS = 1.5;
/** Where the last bar lies further from the end than this, the song rings out by itself and only its tail is faded. */
const LONGEST_FADE_SECONDS = 10;
const FADE_POINTS = 33;

/**
 * The song from its start to the end of the film, with a fade that begins on the last bar start that leaves 1.5 s for it,
 * so that music never just stops. Without such a bar it begins 3 s before the end, or halfway in a film shorter than that.
 */
export function planSound(songSha256: string, filmSeconds: number, barSeconds: readonly number[]): SoundPlan {
  const bar = barSeconds.findLast((seconds) => seconds <= filmSeconds - SHORTEST_FADE_SECONDS);
  const onBar = bar !== undefined && bar >= filmSeconds - LONGEST_FADE_SECONDS && bar > 0;
  const startSeconds = onBar ? bar : Math.max(filmSeconds / 2, filmSeconds - 3);
  const gain = Array.from({ length: FADE_POINTS }, (_, i) => {
    const share = i / (FADE_POINTS - 1);
    // A quarter of a cosine: the bar on which it starts is still heard in full.
    return {
      seconds: startSeconds + share * (filmSeconds - startSeconds),
      gain: i === FADE_POINTS - 1 ? 0 : Math.cos((share * Math.PI) / 2),
    };
  });
  return {
    songSha256,
    filmStartSeconds: 0,
    songStartSeconds: 0,
    lengthSeconds: filmSeconds,
    gain,
    fadeOut: { startSeconds, endSeconds: filmSeconds },
  };
}

/** The gain at a time of the film. O(log points). */
export function gainAt(curve: GainCurve, seconds: number): number {
  const first = curve[0];
  if (!first) return 1;
  if (seconds <= first.seconds) return first.gain;
  let low = 0;
  let high = curve.length - 1;
  if (seconds >= curve[high]!.seconds) return curve[high]!.gain;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (curve[middle]!.seconds <= seconds) low = middle;
    else high = middle;
  }
  const [left, right] = [curve[low]!, curve[high]!];
  return left.gain + ((seconds - left.seconds) / (right.seconds - left.seconds)) * (right.gain - left.gain);
}

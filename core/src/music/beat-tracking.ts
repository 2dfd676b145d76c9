/** Weight of an even step against the strength of an onset; Ellis 2007 calls it alpha. */
const TIGHTNESS = 100;
/** Onsets are compressed, so that one very loud stroke cannot pull the pulse off its path. */
const COMPRESS = 0.5;

/**
 * Beats by dynamic programming (Ellis, "Beat tracking by dynamic programming", 2007), with the period of the tempo
 * curve at each hop instead of one for the whole song. Returns hops in rising order; leading and trailing beats without
 * any onset near them are taken off. Cost: O(hops * period).
 */
export function trackBeats(onsets: Float32Array, periodHops: Float32Array): number[] {
  const count = onsets.length;
  if (count === 0) return [];
  const salience = smooth(onsets.map((value) => value ** COMPRESS));
  const score = new Float64Array(count);
  const from = new Int32Array(count).fill(-1);
  for (let hop = 0; hop < count; hop++) {
    const period = periodHops[hop]!;
    let best = 0;
    const first = Math.max(0, Math.round(hop - 2 * period));
    for (let before = first; before <= hop - period / 2; before++) {
      const stretch = Math.log((hop - before) / period);
      const candidate = score[before]! - TIGHTNESS * stretch * stretch;
      if (candidate > best) {
        best = candidate;
        from[hop] = before;
      }
    }
    score[hop] = best + salience[hop]!;
  }
  const lastPeriod = Math.ceil(periodHops[count - 1]!);
  let hop = count - 1;
  for (let i = Math.max(0, count - lastPeriod); i < count; i++) if (score[i]! >= score[hop]!) hop = i;
  const beats: number[] = [];
  for (; hop >= 0; hop = from[hop]!) beats.push(hop);
  return withoutSilentEnds(beats.reverse(), onsets);
}

/** A short Gaussian, so that a beat one hop beside its onset still scores. */
function smooth(curve: Float32Array): Float32Array {
  const weights = [0.06, 0.24, 0.4, 0.24, 0.06];
  return curve.map((_, i) => {
    let sum = 0;
    for (let k = -2; k <= 2; k++) sum += weights[k + 2]! * (curve[i + k] ?? 0);
    return sum;
  });
}

function withoutSilentEnds(beats: readonly number[], onsets: Float32Array): number[] {
  const loud = (hop: number): boolean => {
    for (let i = Math.max(0, hop - 5); i <= hop + 5; i++) if ((onsets[i] ?? 0) > 0.3) return true;
    return false;
  };
  const first = beats.findIndex(loud);
  const last = beats.findLastIndex(loud);
  return first < 0 ? [] : beats.slice(first, last + 1);
}

import { HOP_SECONDS } from "./audio.ts";

export interface TempoCurve {
  /** The beat period in hops at every hop of the song; fractional. */
  readonly periodHops: Float32Array;
  /** How clearly the music repeats at that period, 0 to 1, at every hop. */
  readonly clarity: Float32Array;
}

const WINDOW_SECONDS = 8;
const STEP_SECONDS = 1;
const SLOWEST_BPM = 45;
const FASTEST_BPM = 220;
/** Common practice: people tap most readily at about two beats a second; the prior is a bell over octaves around it. */
const PREFERRED_BPM = 112;
const PREFERENCE_OCTAVES = 0.85;
/** A correlation of this share of the power is an exact repetition; a period twice as long loses so much of its strength. */
const EXACT_SHARE = 0.9;
const EVERY_SECOND_PENALTY = 0.7;
/** Cost of changing the period by a factor e within one step, in units of a full autocorrelation peak. */
const CHANGE_COST = 30;

/**
 * The tempo as it changes: in 8-second windows a second apart, the autocorrelation of onset strength, supported by its
 * multiples and weighted by how readily people tap at that speed (Ellis 2007), and then the best smooth path through
 * all windows by dynamic programming. Cost: O(windows * periods^2) with about 100 periods, small against the spectrum.
 */
export function tempoCurve(onsets: Float32Array): TempoCurve {
  const periods = candidatePeriods();
  const windowHops = Math.round(WINDOW_SECONDS / HOP_SECONDS);
  const stepHops = Math.round(STEP_SECONDS / HOP_SECONDS);
  const windowCount = Math.max(1, Math.ceil(onsets.length / stepHops));
  const strengths: Float64Array[] = [];
  for (let w = 0; w < windowCount; w++) {
    strengths.push(periodStrengths(onsets, w * stepHops - windowHops / 2, windowHops, periods));
  }
  const path = smoothestPath(strengths, periods);
  const periodHops = new Float32Array(onsets.length);
  const clarity = new Float32Array(onsets.length);
  for (let hop = 0; hop < onsets.length; hop++) {
    const at = Math.min(windowCount - 1, hop / stepHops);
    const left = Math.floor(at);
    const right = Math.min(windowCount - 1, left + 1);
    const mix = at - left;
    periodHops[hop] = (1 - mix) * periods[path[left]!]! + mix * periods[path[right]!]!;
    clarity[hop] = (1 - mix) * strengths[left]![path[left]!]! + mix * strengths[right]![path[right]!]!;
  }
  return { periodHops, clarity };
}

/** Periods spaced evenly in logarithm, 2 % apart. */
function candidatePeriods(): Float64Array {
  const shortest = 60 / FASTEST_BPM / HOP_SECONDS;
  const longest = 60 / SLOWEST_BPM / HOP_SECONDS;
  const count = Math.ceil(Math.log(longest / shortest) / Math.log(1.02)) + 1;
  return Float64Array.from({ length: count }, (_, i) => shortest * (longest / shortest) ** (i / (count - 1)));
}

function periodStrengths(onsets: Float32Array, from: number, length: number, periods: Float64Array): Float64Array {
  const start = Math.max(0, Math.round(from));
  const end = Math.min(onsets.length, Math.round(from) + length);
  const piece = onsets.subarray(start, end).map(Math.sqrt);
  let mean = 0;
  for (const value of piece) mean += value / piece.length;
  const maxLag = Math.ceil(periods.at(-1)! * 4) + 1;
  const correlation = new Float64Array(maxLag + 1);
  for (let lag = 0; lag <= maxLag && lag < piece.length; lag++) {
    let sum = 0;
    for (let i = lag; i < piece.length; i++) sum += (piece[i]! - mean) * (piece[i - lag]! - mean);
    correlation[lag] = sum / (piece.length - lag);
  }
  const power = correlation[0]!;
  return periods.map((period) => {
    if (power < 1e-9) return 0;
    // A beat repeats after one, two and four beats too; chance peaks seldom do.
    const support =
      (peakNear(correlation, period) +
        0.5 * peakNear(correlation, 2 * period) +
        0.25 * peakNear(correlation, 4 * period)) /
      1.75;
    const octaves = Math.log2(60 / (period * HOP_SECONDS) / PREFERRED_BPM) / PREFERENCE_OCTAVES;
    // Where the music repeats all but exactly at half the period (a click, a drum machine alone), that is the beat.
    const isEverySecond = peakNear(correlation, period / 2) > EXACT_SHARE * power;
    const evenness = isEverySecond ? EVERY_SECOND_PENALTY : 1;
    return evenness * (Math.max(0, support) / power) * Math.exp(-0.5 * octaves * octaves);
  });
}

/** The highest correlation within 1 % of a lag: half the distance between candidate periods, so no sharp peak falls between two. */
function peakNear(correlation: Float64Array, lag: number): number {
  const first = Math.floor(lag * 0.99);
  const last = Math.min(correlation.length - 1, Math.ceil(lag * 1.01));
  let highest = -Infinity;
  for (let i = first; i <= last; i++) highest = Math.max(highest, correlation[i]!);
  return highest > -Infinity ? highest : 0;
}

/** Indices of the periods on the path with the greatest strength less the cost of changing. Ties go to the faster. */
function smoothestPath(strengths: readonly Float64Array[], periods: Float64Array): Int32Array {
  const count = periods.length;
  const logPeriods = periods.map(Math.log);
  let score = strengths[0]!.slice();
  const from: Int32Array[] = [];
  for (const strength of strengths.slice(1)) {
    const next = new Float64Array(count);
    const back = new Int32Array(count);
    for (let j = 0; j < count; j++) {
      let best = -Infinity;
      for (let i = 0; i < count; i++) {
        const change = logPeriods[j]! - logPeriods[i]!;
        // Beyond about 11 % all changes cost alike: a new tempo is as likely as any other.
        const candidate = score[i]! - Math.min(CHANGE_COST * change * change, 0.4);
        if (candidate > best) {
          best = candidate;
          back[j] = i;
        }
      }
      next[j] = best + strength[j]!;
    }
    score = next;
    from.push(back);
  }
  const path = new Int32Array(strengths.length);
  path[path.length - 1] = score.indexOf(Math.max(...score));
  for (let w = path.length - 1; w > 0; w--) path[w - 1] = from[w - 1]![path[w]!]!;
  return path;
}

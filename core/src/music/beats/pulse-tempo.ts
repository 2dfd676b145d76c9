import { itemAt, lastOf } from "../../presence/index.ts";
import { HOP_SECONDS, MagnitudeSpectrum } from "../signal/index.ts";

/** A window is long enough to tell 120 from 122 beats a minute, and short enough for a part. */
export const WINDOW_HOPS = Math.round(15 / HOP_SECONDS);
export const STEP_HOPS = Math.round(5 / HOP_SECONDS);
/** Zeros behind the window bring the bins of its spectrum to 0.73 beats a minute. */
const TRANSFORM_HOPS = 8192;
/** A little more than an octave: the level of the beat is decided later, by the network. */
const SLOWEST_BPM = 70;
const FASTEST_BPM = 160;
const BPM_PER_BIN = 60 / (TRANSFORM_HOPS * HOP_SECONDS);
const FIRST_BIN = Math.round(SLOWEST_BPM / BPM_PER_BIN);
const BINS = Math.round(FASTEST_BPM / BPM_PER_BIN) - FIRST_BIN + 1;
/** How strongly the beat, its half and its quarter say what the tempo is. */
const HARMONICS = [
  [1, 1],
  [2, 1],
  [4, 0.7],
] as const;
/** Weight of what a window says, against the costs of another tempo. */
const WINDOW_WEIGHT = 4;
const NEIGHBOUR_COST = 0.5;
const JUMP_COST = 12;
const WIDEST_STEP = 2;
/** The windows of one stretch lie so close together, in bins. */
const WIDEST_STRETCH = 4;
/** Ten minutes: a line through more would cost more than it tells. */
const MOST_WINDOWS = 120;

/** A stretch of windows of one tempo: hops, `from` inclusive, `to` exclusive. */
export interface TempoStretch {
  readonly from: number;
  readonly to: number;
  readonly beatsPerSecond: number;
}

/**
 * Stretches of one tempo between 70 and 160 beats a minute, in rising order; they overlap by up to
 * a window. In windows of 15 s, 5 s apart, a comb over the spectrum of the onset curve says how
 * well each tempo explains it; the best path through all windows seldom changes (Viterbi). Beats of
 * other levels appear at half or twice their tempo. Empty for less than a window. Cost: one
 * transform of 8,192 for 5 s.
 */
export function tempoStretches(onsetCurve: Float32Array): TempoStretch[] {
  const windows = combs(onsetCurve);
  if (windows.length === 0) return [];
  const path = bestPath(windows);
  const stretches: TempoStretch[] = [];
  for (let first = 0; first < path.length; ) {
    let end = first + 1;
    while (end < path.length && end - first < MOST_WINDOWS && isAlike(itemAt(path, end), path.slice(first, end))) end++;
    const bins = path.slice(first, end).sort((a, b) => a - b);
    stretches.push({
      from: first * STEP_HOPS,
      to: Math.min(onsetCurve.length, (end - 1) * STEP_HOPS + WINDOW_HOPS),
      beatsPerSecond: ((FIRST_BIN + itemAt(bins, bins.length >> 1)) * BPM_PER_BIN) / 60,
    });
    first = end;
  }
  return stretches;
}

const isAlike = (bin: number, others: readonly number[]): boolean =>
  Math.abs(bin - lastOf(others)) <= WIDEST_STEP && Math.abs(bin - itemAt(others, 0)) <= WIDEST_STRETCH;

/** What each window says of each tempo: the logarithm of its comb against the window's median. */
function combs(onsetCurve: Float32Array): Float64Array[] {
  const spectrum = new MagnitudeSpectrum(new Float64Array(TRANSFORM_HOPS).fill(1, 0, WINDOW_HOPS));
  const window = new Float32Array(TRANSFORM_HOPS);
  const rows: Float64Array[] = [];
  for (let from = 0; from + WINDOW_HOPS <= onsetCurve.length; from += STEP_HOPS) {
    let mean = 0;
    for (let i = 0; i < WINDOW_HOPS; i++) mean += onsetCurve[from + i]! / WINDOW_HOPS;
    for (let i = 0; i < WINDOW_HOPS; i++) window[i] = onsetCurve[from + i]! - mean;
    spectrum.take(window, 0);
    const comb = Float64Array.from({ length: BINS }, (_, i) =>
      HARMONICS.reduce((sum, [times, weight]) => sum + weight * spectrum.magnitudes[times * (FIRST_BIN + i)]!, 0),
    );
    const median = itemAt(
      [...comb].sort((a, b) => a - b),
      BINS >> 1,
    );
    rows.push(comb.map((value) => WINDOW_WEIGHT * Math.log((value + 1e-9) / (median + 1e-9))));
  }
  return rows;
}

/** The bin of each window on the best path through all. */
function bestPath(windows: readonly Float64Array[]): number[] {
  let scores = itemAt(windows, 0).slice();
  const origins: Int32Array[] = [];
  for (const window of windows.slice(1)) {
    const best = largestIndex(scores);
    const origin = new Int32Array(BINS);
    const next = new Float64Array(BINS);
    for (let bin = 0; bin < BINS; bin++) {
      let value = scores[best]! - JUMP_COST;
      origin[bin] = best;
      for (let from = Math.max(0, bin - WIDEST_STEP); from <= Math.min(BINS - 1, bin + WIDEST_STEP); from++) {
        const stayed = scores[from]! - NEIGHBOUR_COST * Math.abs(bin - from);
        if (stayed <= value) continue;
        value = stayed;
        origin[bin] = from;
      }
      next[bin] = value + window[bin]!;
    }
    origins.push(origin);
    scores = next;
  }
  const path = [largestIndex(scores)];
  for (const origin of origins.reverse()) path.push(origin[lastOf(path)]!);
  return path.reverse();
}

/** The index of the largest value; of equal ones the first. */
function largestIndex(values: Float64Array): number {
  let largest = 0;
  for (let i = 1; i < values.length; i++) if (values[i]! > values[largest]!) largest = i;
  return largest;
}

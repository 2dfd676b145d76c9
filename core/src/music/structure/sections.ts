import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import { type BarFeatures, barLikeness } from "./bar-features.ts";

export interface Section {
  readonly startSeconds: Seconds;
  readonly endSeconds: Seconds;
  /** Sections with the same letter sound alike. */
  readonly label: string;
}

/** A run of bars, from `firstBar` up to, not including, `endBar`. */
export interface BarRun {
  readonly firstBar: number;
  readonly endBar: number;
  readonly label: string;
}

/** Bars to each side that Foote's checkerboard looks at. */
const NOVELTY_REACH = 4;
const NOVELTY_WEIGHT = 1.2;
const NETWORK_WEIGHT = 0.5;
/** What a boundary must be worth. */
const BOUNDARY_COST = 1;
const LONGEST_BARS = 32;
/** Mean likeness along the bars from which two sections are the same. */
const SAME_LIKENESS = 0.82;

/**
 * Divides bars into sections: the best division by what each boundary is worth, which is Foote's
 * novelty (2000: a checkerboard along the diagonal of the self-similarity of bars), the network's
 * log odds of a section start, and how usual each length is. Exact by dynamic programming, O(bars *
 * LONGEST_BARS). Labels A, B … in order of appearance go to sections whose bars are alike one by
 * one. No bars, no sections.
 */
export function findSections(features: BarFeatures, sectionOdds: readonly number[]): BarRun[] {
  const { barCount } = features;
  if (barCount === 0) return [];
  const novelty = standardised(footeNovelty(features));
  const worth = novelty.map(
    (value, bar) => NOVELTY_WEIGHT * value + NETWORK_WEIGHT * clamp(itemAt(sectionOdds, bar), -5, 5) - BOUNDARY_COST,
  );
  const best = new Float64Array(barCount + 1).fill(-Infinity);
  const from = new Int32Array(barCount + 1);
  best[0] = 0;
  for (let end = 1; end <= barCount; end++) {
    for (let start = Math.max(0, end - LONGEST_BARS); start < end; start++) {
      const candidate = itemAt(best, start) + (start > 0 ? itemAt(worth, start) : 0) + lengthWorth(end - start);
      if (candidate > itemAt(best, end)) [best[end], from[end]] = [candidate, start];
    }
  }
  const bounds = [barCount];
  while (itemAt(bounds, 0) > 0) bounds.unshift(itemAt(from, itemAt(bounds, 0)));
  return labelled(features, bounds);
}

/**
 * Common practice: music moves in fours and eights; an odd number of bars is rare, one or two alone
 * rarer.
 */
function lengthWorth(bars: number): number {
  const even = bars % 8 === 0 ? 0.9 : bars % 4 === 0 ? 0.6 : bars % 2 === 0 ? 0 : -0.6;
  return even - (bars < 4 ? 0.7 * (4 - bars) : 0);
}

/**
 * At each bar: likeness within both sides less likeness across, Gaussian-weighted, as a mean; 0 at
 * the very start.
 */
function footeNovelty(features: BarFeatures): number[] {
  return Array.from({ length: features.barCount }, (_, bar) => {
    let sum = 0;
    let weights = 0;
    for (let i = -NOVELTY_REACH; i < NOVELTY_REACH; i++) {
      for (let j = -NOVELTY_REACH; j < NOVELTY_REACH; j++) {
        const [a, b] = [bar + i, bar + j];
        if (a === b || a < 0 || b < 0 || a >= features.barCount || b >= features.barCount) continue;
        const weight = Math.exp(-((i + 0.5) ** 2 + (j + 0.5) ** 2) / (2 * (NOVELTY_REACH / 2) ** 2));
        sum += weight * barLikeness(features, a, b) * (i < 0 === j < 0 ? 1 : -1);
        weights += weight;
      }
    }
    return bar === 0 ? 0 : sum / weights;
  });
}

function labelled(features: BarFeatures, bounds: readonly number[]): BarRun[] {
  const runs: BarRun[] = [];
  const kinds: BarRun[] = [];
  for (let i = 0; i + 1 < bounds.length; i++) {
    const run = { firstBar: itemAt(bounds, i), endBar: itemAt(bounds, i + 1), label: "" };
    const likeness = kinds.map((kind) => runLikeness(features, kind, run));
    const closest = likeness.indexOf(Math.max(...likeness));
    if (closest >= 0 && itemAt(likeness, closest) >= SAME_LIKENESS) {
      runs.push({ ...run, label: itemAt(kinds, closest).label });
    } else {
      const fresh = { ...run, label: letter(kinds.length) };
      kinds.push(fresh);
      runs.push(fresh);
    }
  }
  return runs;
}

/** A to Z, then A2, B2 … */
function letter(index: number): string {
  const round = Math.floor(index / 26);
  return String.fromCharCode(65 + (index % 26)) + (round > 0 ? String(round + 1) : "");
}

function runLikeness(features: BarFeatures, a: BarRun, b: BarRun): number {
  const bars = Math.min(a.endBar - a.firstBar, b.endBar - b.firstBar);
  let sum = 0;
  for (let i = 0; i < bars; i++) sum += barLikeness(features, a.firstBar + i, b.firstBar + i);
  return sum / bars;
}

function standardised(values: readonly number[]): number[] {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  const deviation = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length) || 1;
  return values.map((value) => (value - mean) / deviation);
}

function clamp(value: number, low: number, high: number): number {
  return Math.min(high, Math.max(low, value));
}

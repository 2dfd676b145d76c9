import { itemAt } from "../../presence/index.ts";
import { type BarFeatures, barLikeness } from "./bar-features.ts";
import type { BarRun } from "./sections.ts";

/**
 * Phrase lengths in bars that are considered, the most usual first: it wins ties. Common practice.
 */
const PHRASE_BARS = [4, 8, 3, 6, 5];
/**
 * How much likelier than four bars another length must make the music look before it is believed.
 */
const MARGIN = 0.03;

/**
 * Bars after which the music is most like itself, compared with one bar less and one more; 4 where
 * nothing repeats.
 */
export function phraseBars(features: BarFeatures): number {
  const { barCount } = features;
  let best = itemAt(PHRASE_BARS, 0);
  let bestContrast = MARGIN;
  for (const length of PHRASE_BARS) {
    if (barCount < 3 * length) continue;
    const contrast =
      meanLikeness(features, length) - (meanLikeness(features, length - 1) + meanLikeness(features, length + 1)) / 2;
    if (contrast > bestContrast + (length === PHRASE_BARS[0] ? 0 : MARGIN)) [best, bestContrast] = [length, contrast];
  }
  return best;
}

/**
 * First bars of all phrases: each section is divided into phrases of `length` bars from its own
 * start; a rest of less than half a phrase belongs to the phrase before.
 */
export function phraseStarts(sections: readonly BarRun[], length: number): number[] {
  return sections.flatMap(({ firstBar, endBar }) => {
    const starts: number[] = [];
    for (let bar = firstBar; bar < endBar; bar += length) {
      if (bar === firstBar || endBar - bar >= length / 2) starts.push(bar);
    }
    return starts;
  });
}

function meanLikeness(features: BarFeatures, lag: number): number {
  let sum = 0;
  for (let bar = lag; bar < features.barCount; bar++) sum += barLikeness(features, bar, bar - lag);
  return sum / Math.max(1, features.barCount - lag);
}

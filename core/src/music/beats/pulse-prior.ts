import { mean } from "../../numeric/index.ts";
import { HOP_SECONDS } from "../signal/index.ts";
import { BEAT_BONUS } from "./bar-pointer.ts";
import { type BeatActivations, oddsAt } from "./beat-network.ts";
import type { SteadyPulse } from "./steady-pulse.ts";

/** Beats that are felt are so many times as long as those of the pulse that was found. */
const LEVELS = [1 / 3, 0.5, 2 / 3, 1, 1.5, 2, 3];
const SLOWEST_BPM = 42;
const FASTEST_BPM = 215;
/** Off-beats and sixteenths may be stronger than the beat: the pulse may lie on any quarter. */
const QUARTER = 0.25;
/** Log odds that a steady pulse adds to its beats: as much as one that is clearly heard. */
const BONUS = 5;
/** Standard deviation in seconds of how far a beat lies from an even pulse. */
const SPREAD_SECONDS = 0.015;
/** One beat that the network does not hear says no more than this against a grid. */
const LEAST_ODDS = -2.5;
/**
 * How much it counts that beats are struck, where half as strong as the strongest is even: what the
 * network is not sure of, the density of strokes decides.
 */
const STROKE_WEIGHT = 3;
const EVEN_STROKE = 0.5;
const STROKE_REACH_HOPS = 3;

/**
 * What steady pulses say before the network is asked, as log odds per hop for `trackBars`: a song
 * that keeps one tempo for minutes keeps it through loud and empty bars too. A pulse has several
 * levels and phases: the one is taken whose beats are best heard by the network, and struck, over
 * the whole stretch. The prior is as long as the onset curve. O(levels * stretch).
 */
export function pulsePrior(
  pulses: readonly SteadyPulse[],
  onsetCurve: Float32Array,
  activations: BeatActivations,
): Float32Array {
  const hopCount = onsetCurve.length;
  const prior = new Float32Array(hopCount);
  for (const pulse of pulses) {
    const grid = bestGrid(pulse, onsetCurve, activations);
    if (!grid) continue;
    for (let hop = pulse.from; hop < Math.min(hopCount, pulse.to); hop++) {
      const beats = (hop * HOP_SECONDS - grid.phaseSeconds) / grid.periodSeconds;
      const off = (beats - Math.round(beats)) * grid.periodSeconds;
      const bonus = BONUS * pulse.trust[hop - pulse.from]! * Math.exp(-0.5 * (off / SPREAD_SECONDS) ** 2);
      // Stretches overlap by the length of a window.
      prior[hop] = Math.max(prior[hop]!, bonus);
    }
  }
  return prior;
}

interface Grid {
  readonly periodSeconds: number;
  readonly phaseSeconds: number;
}

/** The level and phase that is heard and struck best; null where none of them is. */
function bestGrid(pulse: SteadyPulse, onsetCurve: Float32Array, activations: BeatActivations): Grid | null {
  const strokesOf = (grid: Grid): number[] => beatsOf(grid, pulse).map((seconds) => strokeAt(onsetCurve, seconds));
  const { periodSeconds } = pulse;
  const strongest = Math.max(
    ...phasesOf(pulse, periodSeconds).map((phaseSeconds) => mean(strokesOf({ periodSeconds, phaseSeconds }))),
  );
  let best: Grid | null = null;
  let bestScore = 0;
  for (const level of LEVELS) {
    const period = periodSeconds * level;
    if (period < 60 / FASTEST_BPM || period > 60 / SLOWEST_BPM) continue;
    for (const phaseSeconds of phasesOf(pulse, period)) {
      const grid = { periodSeconds: period, phaseSeconds };
      let score = 0;
      for (const seconds of beatsOf(grid, pulse)) {
        const stroke = Math.min(1, strokeAt(onsetCurve, seconds) / (strongest + 1e-9));
        score += Math.max(LEAST_ODDS, oddsAt(activations, seconds)) + BEAT_BONUS;
        score += STROKE_WEIGHT * (stroke - EVEN_STROKE);
      }
      if (score > bestScore) [best, bestScore] = [grid, score];
    }
  }
  return best;
}

/** Every quarter of the pulse that lies within a period of a grid. */
const phasesOf = ({ phaseSeconds, periodSeconds }: SteadyPulse, period: number): number[] =>
  Array.from(
    { length: Math.ceil(period / (QUARTER * periodSeconds) - 1e-9) },
    (_, i) => phaseSeconds + i * QUARTER * periodSeconds,
  );

function beatsOf({ periodSeconds, phaseSeconds }: Grid, pulse: SteadyPulse): number[] {
  const first = Math.ceil((pulse.from * HOP_SECONDS - phaseSeconds) / periodSeconds);
  const end = Math.ceil((pulse.to * HOP_SECONDS - phaseSeconds) / periodSeconds);
  return Array.from({ length: end - first }, (_, i) => phaseSeconds + (first + i) * periodSeconds);
}

/** The strongest of the onset curve beside a moment. */
function strokeAt(onsetCurve: Float32Array, seconds: number): number {
  const centre = Math.round(seconds / HOP_SECONDS);
  let strongest = 0;
  for (let hop = Math.max(0, centre - STROKE_REACH_HOPS); hop <= centre + STROKE_REACH_HOPS; hop++)
    strongest = Math.max(strongest, onsetCurve[hop] ?? 0);
  return strongest;
}

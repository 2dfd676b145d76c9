import { median } from "../../numeric/index.ts";
import { HOP_SECONDS } from "../signal/index.ts";
import { STEP_HOPS, type TempoStretch, tempoStretches, WINDOW_HOPS } from "./pulse-tempo.ts";

/** Places within a beat that are told apart; a parabola finds the place between them. */
const PLACES = 96;
const HALF = PLACES / 2;
/** The tempo is looked for so far to both sides of the stretch's, in beats a second. */
const SEARCH_WIDTH = 0.02;
/** Steps of that search in a turn more or less over the whole stretch. */
const STEPS_PER_TURN = 8;
/** How strongly the beat, its half and its quarter say what the tempo is. */
const HARMONICS = [
  [1, 0.5],
  [2, 1],
  [4, 0.7],
] as const;
/** Tempo and phase are fitted in turn so many times. */
const ROUNDS = 3;
/** A window agrees whose pulse lies within so much of the line through all. */
const AGREEMENT_SECONDS = 0.025;
/** And whose pulse stands out from the mean so much, or from that of the other windows. */
const LEAST_STRENGTH = 1.25;
const LEAST_SHARE_OF_STRENGTH = 0.6;
/** Fewer windows than this prove nothing: two lines always agree. */
const FEWEST_WINDOWS = 4;
/** Share of a stretch's windows that must agree. */
const LEAST_AGREEMENT = 0.6;

/** From this value on the onset curve, whose mean is about 3, holds something that is struck. */
const STRUCK = 1.5;
/** A pulse goes on through such a rest, but not before the first stroke or behind the last. */
const LONGEST_REST_HOPS = Math.round(4 / HOP_SECONDS);
/** A beat may lie so much beside its stroke. */
const BESIDE_HOPS = Math.round(0.05 / HOP_SECONDS);

/** A pulse of constant tempo over a stretch of the song. */
export interface SteadyPulse {
  /** In hops: `from` inclusive, `to` exclusive. */
  readonly from: number;
  readonly to: number;
  /** A beat of between 0.37 and 0.86 s; which level of the pulse is felt is not known here. */
  readonly periodSeconds: number;
  /** One moment of the pulse, which may be half or a quarter of a period off the beat. */
  readonly phaseSeconds: number;
  /**
   * Per hop from `from` on: the share of windows around it that agree with the pulse, 0 to 1; 0
   * where nothing was struck before or nothing comes behind.
   */
  readonly trust: Float32Array;
}

/**
 * The stretches of a song that were played to a click, or as evenly as to one: the pulse of the
 * onset curve lies on one straight line over many windows of 15 s, within 25 ms. What drifts or
 * breathes has none. The line has the median of the slopes of all pairs of windows (Theil 1950, Sen
 * 1968): a break or a fill does not turn it. Its tempo is first looked for by the curve's Fourier
 * coefficients over the whole stretch. Cost: O(hops), as a stretch is ten minutes at most.
 */
export function steadyPulses(onsetCurve: Float32Array): SteadyPulse[] {
  return tempoStretches(onsetCurve).flatMap((stretch) => {
    const pulse = pulseThrough(onsetCurve, stretch);
    return pulse ? [pulse] : [];
  });
}

interface PulseWindow {
  readonly centreSeconds: number;
  /** How far the window's pulse lies behind the line, modulo half a beat. */
  readonly offSeconds: number;
  readonly strength: number;
}

function pulseThrough(curve: Float32Array, stretch: TempoStretch): SteadyPulse | null {
  const count = Math.floor((stretch.to - stretch.from - WINDOW_HOPS) / STEP_HOPS) + 1;
  if (count < FEWEST_WINDOWS) return null;
  let rate = coherentRate(curve, stretch);
  let phase = strongestPlace(curve, stretch.from, stretch.to, rate, 0).place / rate;
  const windowsNow = (): PulseWindow[] =>
    Array.from({ length: count }, (_, i) => {
      const from = stretch.from + i * STEP_HOPS;
      const { place, strength } = strongestPlace(curve, from, from + WINDOW_HOPS, rate, phase);
      const offSeconds = (place < 0.25 ? place : place - 0.5) / rate;
      return { centreSeconds: (from + WINDOW_HOPS / 2) * HOP_SECONDS, offSeconds, strength };
    });
  for (let round = 0; round < ROUNDS; round++) {
    const { slope, shift } = lineThrough(windowsNow());
    rate /= 1 + slope;
    phase += shift;
  }
  const windows = windowsNow();
  const usual = median(windows.map(({ strength }) => strength));
  const agrees = windows.map(
    ({ offSeconds, strength }) =>
      Math.abs(offSeconds) < AGREEMENT_SECONDS && strength > Math.max(LEAST_STRENGTH, LEAST_SHARE_OF_STRENGTH * usual),
  );
  if (agrees.filter(Boolean).length < LEAST_AGREEMENT * count) return null;
  const { from, to } = stretch;
  const trust = trustAlong(agrees, curve.subarray(from, to));
  return { from, to, periodSeconds: 1 / rate, phaseSeconds: phase, trust };
}

/** The tempo near that of the stretch whose turns add up best over the whole of it. */
function coherentRate(curve: Float32Array, { from, to, beatsPerSecond }: TempoStretch): number {
  const step = 1 / (STEPS_PER_TURN * (to - from) * HOP_SECONDS);
  const steps = Math.ceil(SEARCH_WIDTH / step);
  let best = beatsPerSecond;
  let most = 0;
  for (let i = -steps; i <= steps; i++) {
    const rate = beatsPerSecond + i * step;
    const sum = HARMONICS.reduce((all, [times, weight]) => all + weight * turnedSum(curve, from, to, times * rate), 0);
    if (sum > most) [best, most] = [rate, sum];
  }
  return best;
}

/** The size of the curve's Fourier coefficient at one frequency in hertz. */
function turnedSum(curve: Float32Array, from: number, to: number, hertz: number): number {
  const angle = 2 * Math.PI * hertz * HOP_SECONDS;
  const [cosine, sine] = [Math.cos(angle), Math.sin(angle)];
  let [x, y, real, imaginary] = [1, 0, 0, 0];
  for (let hop = from; hop < to; hop++) {
    real += curve[hop]! * x;
    imaginary += curve[hop]! * y;
    const turned = x * cosine - y * sine;
    y = x * sine + y * cosine;
    x = turned;
  }
  return Math.hypot(real, imaginary);
}

/** The line through the pulses of the windows. */
function lineThrough(windows: readonly PulseWindow[]): { slope: number; shift: number } {
  const slopes = windows.flatMap((a, i) =>
    windows.slice(i + 1).map((b) => (b.offSeconds - a.offSeconds) / (b.centreSeconds - a.centreSeconds)),
  );
  const slope = median(slopes);
  return { slope, shift: median(windows.map(({ centreSeconds, offSeconds }) => offSeconds - slope * centreSeconds)) };
}

/**
 * Where in half a beat most begins (0 to 0.5 beats behind the phase), and how much more than on
 * average.
 */
function strongestPlace(
  curve: Float32Array,
  from: number,
  to: number,
  rate: number,
  phaseSeconds: number,
): { place: number; strength: number } {
  const sums = new Float64Array(HALF);
  const counts = new Float64Array(HALF);
  const step = rate * HOP_SECONDS * PLACES;
  let at = ((from * HOP_SECONDS - phaseSeconds) * rate * PLACES) % HALF;
  if (at < 0) at += HALF;
  for (let hop = from; hop < to; hop++) {
    const place = Math.min(HALF - 1, Math.floor(at));
    sums[place]! += curve[hop]!;
    counts[place]! += 1;
    at += step;
    if (at >= HALF) at -= HALF;
  }
  const means = sums.map((sum, i) => sum / Math.max(1, counts[i]!));
  const smooth = means.map((value, i) => (value + means[(i + 1) % HALF]! + means[(i + HALF - 1) % HALF]!) / 3);
  let [strongest, total] = [0, 0];
  for (const [i, value] of smooth.entries()) {
    total += value;
    if (value > smooth[strongest]!) strongest = i;
  }
  const [a, b, c] = [smooth[(strongest + HALF - 1) % HALF]!, smooth[strongest]!, smooth[(strongest + 1) % HALF]!];
  const within = (0.5 * (a - c)) / Math.min(-1e-9, a - 2 * b + c);
  return { place: (strongest + 0.5 + within) / PLACES, strength: b / Math.max(1e-9, total / HALF) };
}

/** The share of the windows over each hop that agree, where the music goes on on both sides. */
function trustAlong(agrees: readonly boolean[], curve: Float32Array): Float32Array {
  const trust = new Float32Array(curve.length);
  const counts = new Float32Array(curve.length);
  for (const [i, agreed] of agrees.entries()) {
    for (let hop = i * STEP_HOPS; hop < i * STEP_HOPS + WINDOW_HOPS; hop++) {
      counts[hop]! += 1;
      if (agreed) trust[hop]! += 1;
    }
  }
  const last = agrees.at(-1) ? 1 : 0;
  const [since, until] = [strokesBefore(curve), strokesBefore(curve.toReversed()).toReversed()];
  return trust.map((sum, hop) => {
    if (Math.max(since[hop]!, until[hop]!) > LONGEST_REST_HOPS) return 0;
    return counts[hop]! > 0 ? sum / counts[hop]! : last;
  });
}

/** How many hops ago something was struck, at each hop; what comes just behind it counts too. */
function strokesBefore(curve: Float32Array): Float32Array {
  let ago = Infinity;
  return curve.map((_, hop) => {
    ago = (curve[hop + BESIDE_HOPS] ?? 0) >= STRUCK ? 0 : ago + 1;
    return ago;
  });
}

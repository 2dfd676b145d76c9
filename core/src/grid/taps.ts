import { evenPulse } from "../music/index.ts";
import { median } from "../numeric/index.ts";
import { itemAt, lastOf } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { indexOfNearestBeat } from "./grid.ts";
import { gridError } from "./grid-errors.ts";

/**
 * How late (or, negative, early) a person taps, with what spread; output delay of the device is in
 * it as well.
 */
export interface TapLag {
  readonly medianSeconds: Seconds;
  /** 1.4826 times the median absolute deviation: the standard deviation, if lags are normal. */
  readonly spreadSeconds: Seconds;
  /** Taps that it was measured from. */
  readonly count: number;
}

/** Fewer taps than this say nothing about a person. */
const FEWEST_CALIBRATION_TAPS = 8;
/** A tap farther from every click than this share of the gap between clicks was meant for none. */
const LARGEST_SHARE = 0.4;
/** A fast tap twice on one beat. */
const DOUBLE_TAP_SHARE = 0.5;
/**
 * The pulse between taps bends over about this many beats; a person's own noise is faster. Chosen
 * by the simulation in taps.test.ts.
 */
const TAP_STIFFNESS = 150;
/**
 * Taps farther from the pulse than this many spreads are mistakes and lose weight (Huber's rule).
 */
const HUBER_SPREADS = 1.5;
const ROUNDS = 6;

/**
 * A person's lag from taps to a click. Both lists in seconds, rising. Throws `too-few-taps`. O(taps
 * log clicks).
 */
export function measureTapLag(clickSeconds: readonly Seconds[], tapSeconds: readonly Seconds[]): TapLag {
  const clicks = clickSeconds.map((seconds) => ({ seconds }));
  const gap = median(clickSeconds.slice(1).map((seconds, i) => seconds - itemAt(clickSeconds, i)));
  const lags = tapSeconds
    .map((tap) => tap - (clickSeconds[indexOfNearestBeat(clicks, tap)] ?? Number.NaN))
    .filter((lag) => Math.abs(lag) <= LARGEST_SHARE * gap);
  if (lags.length < FEWEST_CALIBRATION_TAPS) {
    throw gridError("too-few-taps", {
      taps: lags.length,
      allTaps: tapSeconds.length,
      fewest: FEWEST_CALIBRATION_TAPS,
    });
  }
  const medianSeconds = median(lags);
  return {
    medianSeconds,
    spreadSeconds: 1.4826 * median(lags.map((lag) => Math.abs(lag - medianSeconds))),
    count: lags.length,
  };
}

/**
 * One pass from several of the same stretch: taps of different passes that mean the same beat
 * become their median. Two taps mean the same beat if they are nearer than half the usual gap.
 * Rising lists in seconds; O(taps log taps).
 */
export function averagedPasses(passes: readonly (readonly number[])[]): number[] {
  const gap = median(passes.flatMap((pass) => pass.slice(1).map((tap, i) => tap - itemAt(pass, i))));
  const all = passes.flat().sort((a, b) => a - b);
  const groups: number[][] = [];
  for (const tap of all) {
    const group = groups.at(-1);
    if (group && tap - itemAt(group, 0) < DOUBLE_TAP_SHARE * gap) group.push(tap);
    else groups.push([tap]);
  }
  return groups.map(median);
}

/**
 * Each time drawn to the nearest of `targets` within a tolerance, or left; no two to the same one
 * (the nearer wins). Rising lists.
 */
export function drawnTo(seconds: readonly Seconds[], targets: readonly number[], toleranceSeconds: Seconds): number[] {
  const points = targets.map((target) => ({ seconds: target }));
  const taken = new Map<number, number>();
  const nearest = seconds.map((time, i) => {
    const index = indexOfNearestBeat(points, time);
    if (index < 0 || Math.abs(itemAt(targets, index) - time) > toleranceSeconds) return -1;
    const rival = taken.get(index);
    if (
      rival === undefined ||
      Math.abs(itemAt(targets, index) - time) < Math.abs(itemAt(targets, index) - itemAt(seconds, rival))
    )
      taken.set(index, i);
    return index;
  });
  return seconds.map((time, i) =>
    itemAt(nearest, i) >= 0 && taken.get(itemAt(nearest, i)) === i ? itemAt(targets, itemAt(nearest, i)) : time,
  );
}

/**
 * The pulse that a person meant: one beat for each tap, beats that were left out in between, none
 * for a tap that came twice. Robust smoothing (evenPulse under Huber's weights), so that a few
 * wrong taps do not bend it; the tempo may drift between taps. `tapSeconds` rise and are already
 * corrected for lag. Fewer than three taps are returned as they are. O(beats * ROUNDS).
 */
export function pulseOfTaps(tapSeconds: readonly Seconds[]): number[] {
  if (tapSeconds.length < 3) return [...tapSeconds];
  const gap = median(tapSeconds.slice(1).map((tap, i) => tap - itemAt(tapSeconds, i)));
  const times: number[] = [itemAt(tapSeconds, 0)];
  const isTapped: boolean[] = [true];
  for (const tap of tapSeconds.slice(1)) {
    const last = lastOf(times);
    const steps = Math.round((tap - last) / gap);
    if (steps === 0) continue;
    for (let k = 1; k < steps; k++) {
      times.push(last + ((tap - last) * k) / steps);
      isTapped.push(false);
    }
    times.push(tap);
    isTapped.push(true);
  }
  let weights = isTapped.map(Number);
  let pulse = evenPulse(times, weights, TAP_STIFFNESS);
  for (let round = 0; round < ROUNDS; round++) {
    const distances = times.map((time, i) => Math.abs(time - itemAt(pulse, i)));
    const spread = Math.max(0.001, 1.4826 * median(distances.filter((_, i) => isTapped[i])));
    weights = distances.map((distance, i) =>
      isTapped[i] ? Math.min(1, (HUBER_SPREADS * spread) / Math.max(distance, 1e-9)) : 0,
    );
    pulse = evenPulse(times, weights, TAP_STIFFNESS);
  }
  return pulse;
}

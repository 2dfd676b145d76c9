import { HOP_SECONDS } from "./audio.ts";
import type { OnsetStrength } from "./onset-strength.ts";
import type { Spectrogram } from "./spectrogram.ts";

export interface BarGuess {
  readonly beatsPerBar: number;
  /** Index of the first beat that starts a bar, 0 to beatsPerBar - 1. */
  readonly firstBarBeat: number;
}

const METERS = [4, 3] as const;

/**
 * Which beats start bars: the meter (four or three) and phase whose bar starts stand out most from the other beats by
 * change of harmony, bass and weight, in standard deviations. One meter and phase for the whole song; fewer than eight beats give four and 0.
 */
export function guessBars(beats: readonly number[], spectrum: Spectrogram, onsets: OnsetStrength): BarGuess {
  if (beats.length < 8) return { beatsPerBar: 4, firstBarBeat: 0 };
  const harmony = standardScores(harmonicChange(beats, spectrum));
  const low = standardScores(strengthAt(beats, onsets.low));
  const all = standardScores(strengthAt(beats, onsets.all));
  const weight = beats.map((_, i) => harmony[i]! + 0.6 * low[i]! + 0.3 * all[i]!);
  let best: BarGuess = { beatsPerBar: 4, firstBarBeat: 0 };
  let bestContrast = -Infinity;
  for (const beatsPerBar of METERS) {
    for (let phase = 0; phase < beatsPerBar; phase++) {
      const contrast = phaseContrast(weight, beatsPerBar, phase);
      if (contrast > bestContrast) [best, bestContrast] = [{ beatsPerBar, firstBarBeat: phase }, contrast];
    }
  }
  return best;
}

/** How far the mean of the bar starts lies above the mean of the rest, in its own standard error. */
function phaseContrast(weight: readonly number[], beatsPerBar: number, phase: number): number {
  let on = 0;
  let onCount = 0;
  let total = 0;
  for (let i = 0; i < weight.length; i++) {
    total += weight[i]!;
    if (i % beatsPerBar === phase) {
      on += weight[i]!;
      onCount++;
    }
  }
  const offCount = weight.length - onCount;
  return (on / onCount - (total - on) / offCount) / Math.sqrt(1 / onCount + 1 / offCount);
}

/** Distance of the pitch content of the beat that begins here from that of the beat before. */
function harmonicChange(beats: readonly number[], spectrum: Spectrogram): number[] {
  const profiles = beats.map((beat, i) => {
    const end = Math.min(spectrum.frameCount, beats[i + 1] ?? spectrum.frameCount);
    const sum = new Float64Array(12);
    for (let frame = beat; frame < end; frame++) {
      for (let pitch = 0; pitch < 12; pitch++) sum[pitch]! += spectrum.chroma[frame * 12 + pitch]!;
    }
    const length = Math.hypot(...sum) || 1;
    return sum.map((value) => value / length);
  });
  return profiles.map((profile, i) => {
    const before = profiles[i - 1];
    return before ? 1 - profile.reduce((sum, value, pitch) => sum + value * before[pitch]!, 0) : 0;
  });
}

function strengthAt(beats: readonly number[], curve: Float32Array): number[] {
  const reach = Math.round(0.03 / HOP_SECONDS);
  return beats.map((beat) => Math.max(...curve.subarray(Math.max(0, beat - reach), beat + reach + 1)));
}

function standardScores(values: readonly number[]): number[] {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  const deviation = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length) || 1;
  return values.map((value) => (value - mean) / deviation);
}

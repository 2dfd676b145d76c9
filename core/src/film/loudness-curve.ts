import type { ArrangedMusic } from "../arrange/index.ts";
import type { MusicAnalysis } from "../music/index.ts";
import { itemAt } from "../presence/index.ts";
import { soundSecondsAt } from "../sound/index.ts";
import type { Seconds } from "../time/index.ts";

const STEP_SECONDS = 0.5;
/** Loudness is felt over about two bars; 2 s to each side. */
const REACH_STEPS = 4;
/** Level of silence, so that a rest does not count as infinitely quiet. */
const FLOOR = 1e-3;

/**
 * How loud the music is around a moment of the film: -1 its quietest tenth, 0 its median, 1 its
 * loudest tenth, in decibels between. O(film seconds).
 */
export function loudnessCurve(
  music: ArrangedMusic,
  analysis: (sha256: string) => MusicAnalysis | undefined,
): (seconds: Seconds) => number {
  const levels = new Float64Array(Math.max(1, Math.ceil(music.lengthSeconds / STEP_SECONDS)));
  for (const piece of music.pieces) {
    const energy = analysis(piece.soundName)?.energy;
    if (!energy) continue;
    const first = Math.max(0, Math.floor(piece.startSeconds / STEP_SECONDS));
    const end = Math.min(levels.length, Math.ceil(piece.endSeconds / STEP_SECONDS));
    for (let step = first; step < end; step++) {
      const at = soundSecondsAt(piece.time, (step + 0.5) * STEP_SECONDS) / energy.stepSeconds;
      levels[step] = energy.values[Math.max(0, Math.min(energy.values.length - 1, Math.floor(at)))] ?? 0;
    }
  }
  const decibels = Float64Array.from(levels, (_, step) => {
    const around = levels.subarray(Math.max(0, step - REACH_STEPS), step + REACH_STEPS + 1);
    const power = around.reduce((sum, level) => sum + level * level, 0) / around.length;
    return 10 * Math.log10(Math.max(FLOOR ** 2, power));
  });
  const sorted = [...decibels].sort((a, b) => a - b);
  const share = (part: number): number => itemAt(sorted, Math.min(sorted.length - 1, Math.floor(part * sorted.length)));
  const [quiet, middle, loud] = [share(0.1), share(0.5), share(0.9)];
  return (seconds) => {
    const level = itemAt(decibels, Math.max(0, Math.min(decibels.length - 1, Math.floor(seconds / STEP_SECONDS))));
    const span = level < middle ? middle - quiet : loud - middle;
    return span < 1 ? 0 : Math.max(-1, Math.min(1, (level - middle) / span));
  };
}

import { mean, median } from "../../numeric/index.ts";
import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import { FRAME_SECONDS, HOP_SECONDS } from "../signal/index.ts";
import type { BeatActivations } from "./beat-network.ts";
import type { TimedBeat } from "./beat-times.ts";

/**
 * How the beat might be felt otherwise: twice as fast, or only every second or every third of those
 * found.
 */
export type LevelDoubt = "twice" | "half" | "third";

/**
 * Mean probability half way between beats, against that of beats, from which twice as many are
 * likely enough to ask.
 */
const BETWEEN = 0.25;
/** Share by which every second beat, or two of three, must be less probable than the others. */
const SECOND = 0.1;
const THIRD = 0.1;
/**
 * Nobody taps faster or slower than this where the other level can be tapped, in beats a minute:
 * chosen on the corpora of docs/accuracy.md.
 */
const FASTEST_BPM = 185;
const SLOWEST_HALF_BPM = 75;
const SLOWEST_THIRD_BPM = 45;

/**
 * Whether the level of the beat is in doubt, from what the network hears between beats and in every
 * second or third of them; null where it is sure, or where nobody would tap the other level. Of
 * several doubts the one that goes furthest beyond its limit. O(beats log beats).
 */
export function levelDoubt(beats: readonly TimedBeat[], activations: BeatActivations): LevelDoubt | null {
  if (beats.length < 12) return null;
  const heard = mean(beats.map((beat) => beat.heard));
  const between = beats.slice(1).flatMap((beat, i) => {
    return beat.entersTime ? [] : [probabilityAt(activations, (beat.seconds + itemAt(beats, i).seconds) / 2)];
  });
  const gaps = beats.slice(1).flatMap((beat, i) => (beat.entersTime ? [] : [beat.seconds - itemAt(beats, i).seconds]));
  const beatsPerMinute = 60 / median(gaps);
  const candidates: readonly (readonly [LevelDoubt, number, boolean])[] = [
    ["twice", mean(between) / heard / BETWEEN, beatsPerMinute * 2 <= FASTEST_BPM],
    ["half", contrast(beats, 2) / SECOND, beatsPerMinute / 2 >= SLOWEST_HALF_BPM],
    ["third", contrast(beats, 3) / THIRD, beatsPerMinute / 3 >= SLOWEST_THIRD_BPM],
  ];
  const open = candidates.filter(([, excess, isTapped]) => isTapped && excess >= 1);
  return open.sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

/**
 * Share by which the second best of the ways to take every n-th beat is less probable than the
 * best.
 */
function contrast(beats: readonly TimedBeat[], n: number): number {
  const means = Array.from({ length: n }, (_, offset) =>
    mean(beats.filter((_, i) => i % n === offset).map((beat) => beat.heard)),
  ).sort((a, b) => b - a);
  return (itemAt(means, 0) - itemAt(means, 1)) / itemAt(means, 0);
}

function probabilityAt({ beat, frameCount }: BeatActivations, seconds: Seconds): number {
  const frame = Math.round((seconds - HOP_SECONDS / 2) / FRAME_SECONDS);
  let odds = -Infinity;
  for (let f = Math.max(0, frame - 1); f <= Math.min(frameCount - 1, frame + 1); f++)
    odds = Math.max(odds, itemAt(beat, f));
  return 1 / (1 + Math.exp(-odds));
}

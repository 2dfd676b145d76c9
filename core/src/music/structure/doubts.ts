import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import { median } from "../signal/index.ts";

/** A stretch that wants a person's ear, and why. */
export interface Doubt {
  readonly startSeconds: Seconds;
  readonly endSeconds: Seconds;
  /**
   * `faint`: beats were guessed from their neighbours. `tempo`: the pulse jumps. `bar`: the count
   * of the bar changes. `free`: no pulse was found here though there is music.
   */
  readonly reason: "faint" | "tempo" | "bar" | "free";
}

export interface DoubtfulBeat {
  readonly seconds: Seconds;
  readonly position: number;
  readonly beatsPerBar: number;
  readonly confidence: number;
}

/** Mean confidence of NEIGHBOURS beats under which they are faint. */
const FAINT_CONFIDENCE = 0.45;
const NEIGHBOURS = 4;
/**
 * A beat longer or shorter than the median of those around it by more than this share is a jump.
 */
const TEMPO_JUMP = 0.12;
const TEMPO_NEIGHBOURS = 4;
/** Doubts nearer to each other than this are one. */
const JOIN_SECONDS = 2;

/**
 * Doubts in order of time, those that touch joined under the reason of the first; stretches without
 * time are given. O(beats).
 */
export function findDoubts(
  beats: readonly DoubtfulBeat[],
  freeTime: readonly { startSeconds: Seconds; endSeconds: Seconds }[],
): Doubt[] {
  const doubts: Doubt[] = freeTime.map((stretch) => ({ ...stretch, reason: "free" as const }));
  for (let i = 0; i < beats.length; i++) {
    const around = beats.slice(Math.max(0, i - NEIGHBOURS / 2), i + NEIGHBOURS / 2 + 1);
    const confidence = around.reduce((sum, beat) => sum + beat.confidence, 0) / around.length;
    const end = beats[i + 1]?.seconds ?? itemAt(beats, i).seconds;
    if (confidence < FAINT_CONFIDENCE)
      doubts.push({ startSeconds: itemAt(beats, i).seconds, endSeconds: end, reason: "faint" });
    else if (jumps(beats, i)) doubts.push({ startSeconds: itemAt(beats, i).seconds, endSeconds: end, reason: "tempo" });
    const next = beats[i + 1];
    const expected = (itemAt(beats, i).position % itemAt(beats, i).beatsPerBar) + 1;
    if (next && (next.position !== expected || next.beatsPerBar !== itemAt(beats, i).beatsPerBar))
      doubts.push({ startSeconds: itemAt(beats, i).seconds, endSeconds: end, reason: "bar" });
  }
  return joined(doubts);
}

function jumps(beats: readonly DoubtfulBeat[], index: number): boolean {
  const gap = (i: number): number => itemAt(beats, i + 1).seconds - itemAt(beats, i).seconds;
  if (index + 1 >= beats.length) return false;
  const gaps: number[] = [];
  for (let i = Math.max(0, index - TEMPO_NEIGHBOURS); i <= Math.min(beats.length - 2, index + TEMPO_NEIGHBOURS); i++)
    gaps.push(gap(i));
  const usual = median(gaps);
  return Math.abs(Math.log(gap(index) / usual)) > TEMPO_JUMP;
}

function joined(doubts: readonly Doubt[]): Doubt[] {
  const result: Doubt[] = [];
  for (const doubt of [...doubts].sort((a, b) => a.startSeconds - b.startSeconds)) {
    const last = result.at(-1);
    if (last && doubt.startSeconds <= last.endSeconds + JOIN_SECONDS) {
      result[result.length - 1] = { ...last, endSeconds: Math.max(last.endSeconds, doubt.endSeconds) };
    } else result.push(doubt);
  }
  return result;
}

import { median } from "../../numeric/index.ts";
import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";

/** A stretch that wants a person's ear, and why. */
export interface Doubt {
  readonly startSeconds: Seconds;
  readonly endSeconds: Seconds;
  /**
   * `faint`: beats were guessed from their neighbours. `tempo`: the pulse jumps. `level`: the pulse
   * is twice or three times as fast or as slow as in most of the song. `bar`: the count of the bar
   * changes. `free`: no pulse was found here though there is music.
   */
  readonly reason: "faint" | "tempo" | "level" | "bar" | "free";
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
/** The pulse is at another level where its gaps are such multiples of the song's usual ones. */
const OTHER_LEVELS = [1 / 3, 1 / 2, 2, 3];
const LEVEL_TOLERANCE = 0.1;
/** Fewer gaps than this at another level are a jump. */
const FEWEST_GAPS = 4;
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
  // First, because of those that touch the first gives the reason.
  doubts.push(...levelDoubts(beats));
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

/** Whole stretches at another level than most of the song, by time. */
function levelDoubts(beats: readonly DoubtfulBeat[]): Doubt[] {
  const gaps = beats.slice(1).map(({ seconds }, i) => seconds - itemAt(beats, i).seconds);
  const usual = usualGap(gaps);
  const isOther = (gap: number): boolean =>
    OTHER_LEVELS.some((level) => Math.abs(gap / (usual * level) - 1) < LEVEL_TOLERANCE);
  const doubts: Doubt[] = [];
  for (let first = 0; first < gaps.length; first++) {
    let end = first;
    while (end < gaps.length && isOther(itemAt(gaps, end))) end++;
    if (end - first >= FEWEST_GAPS) {
      const [startSeconds, endSeconds] = [itemAt(beats, first).seconds, itemAt(beats, end).seconds];
      doubts.push({ startSeconds, endSeconds, reason: "level" });
    }
    first = end;
  }
  return doubts;
}

/** Half of the song's time lies in gaps that are no longer. */
function usualGap(gaps: readonly number[]): number {
  const rising = gaps.toSorted((a, b) => a - b);
  const half = rising.reduce((sum, gap) => sum + gap, 0) / 2;
  let sum = 0;
  return rising.find((gap) => (sum += gap) >= half) ?? 1;
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
  for (const doubt of doubts.toSorted((a, b) => a.startSeconds - b.startSeconds)) {
    const last = result.at(-1);
    if (last && doubt.startSeconds <= last.endSeconds + JOIN_SECONDS) {
      result[result.length - 1] = { ...last, endSeconds: Math.max(last.endSeconds, doubt.endSeconds) };
    } else result.push(doubt);
  }
  return result;
}

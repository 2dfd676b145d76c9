import type { Beat, Stretch } from "../music/index.ts";
import { firstIndex } from "../numeric/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";

/** Beats nearer to each other than this are one: no music has 600 beats in a minute. */
export const CLOSEST_SECONDS = 0.1;

/** A beat of the grid. */
export interface GridBeat extends Beat {
  /** A person put it where it is: dragging another beat does not move it. */
  readonly placed?: boolean;
  /** A person said that this is the one: counting from another one stops here. */
  readonly one?: boolean;
}

/** Beats and bars of a song after a person's corrections. */
export interface Grid {
  /** In rising order, all at different times, none before 0. */
  readonly beats: readonly GridBeat[];
  /** The usual count; single bars may have more or fewer beats. */
  readonly beatsPerBar: number;
  /** Stretches in which there is no pulse, because none was heard or because a person said so. */
  readonly freeTime: readonly Stretch[];
}

/**
 * Index of the beat nearest to a time, the earlier of two equally near; -1 where there are none.
 * O(log beats).
 */
export function indexOfNearestBeat(beats: readonly { readonly seconds: Seconds }[], at: number): number {
  const next = firstIndex(beats.length, (index) => itemAt(beats, index).seconds >= at);
  if (next === 0) return beats.length ? 0 : -1;
  if (next === beats.length) return beats.length - 1;
  return at - itemAt(beats, next - 1).seconds <= itemAt(beats, next).seconds - at ? next - 1 : next;
}

/** Whether free time lies between two neighbouring beats, in either order. */
export function isAcrossFreeTime(grid: Grid, a: GridBeat, b: GridBeat): boolean {
  const [low, high] = [Math.min(a.seconds, b.seconds), Math.max(a.seconds, b.seconds)];
  return grid.freeTime.some(
    ({ startSeconds, endSeconds }) => startSeconds < high && endSeconds > low && endSeconds - startSeconds > 0.01,
  );
}

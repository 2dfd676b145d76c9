import { itemAt, lastOf } from "../presence/index.ts";
import type { Frames } from "../time/index.ts";
import { shareOfAfter } from "./shown-change.ts";

/** How far beside the plan a change is looked for, in frames, where the neighbours leave room. */
const SEARCH_FRAMES = 12;

interface WatchedSlot {
  readonly startFrame: Frames;
  readonly endFrame: Frames;
  readonly transitionIn: { readonly startFrame: Frames; readonly endFrame: Frames };
}

/** What was seen around the change into one slot. */
export interface SeenChange {
  /** Of the slot. */
  readonly index: number;
  /** The film's frame that the first small frame is of. */
  readonly fromFrame: Frames;
  readonly smallFrames: readonly Uint8Array[];
}

/**
 * Watches the frames of a film go by in order. Hands over those around each change as soon as they
 * are all there, then forgets them: memory follows the longest transition, not the film.
 */
export class ChangeWatch {
  readonly #slots: readonly WatchedSlot[];
  readonly #onChange: (change: SeenChange) => void;
  readonly #frames = new Map<number, Uint8Array>();
  #next = 1;

  constructor(slots: readonly WatchedSlot[], onChange: (change: SeenChange) => void) {
    this.#slots = slots;
    this.#onChange = onChange;
  }

  /** Whether the small frame of a frame will be asked for at all. */
  wants(frame: Frames): boolean {
    const { from, to } = framesAroundChange(this.#slots, this.#next);
    if (frame >= from && frame <= to) return true;
    // A long transition may begin before the one before it has been seen to its end.
    return this.#next + 1 < this.#slots.length && frame >= framesAroundChange(this.#slots, this.#next + 1).from;
  }

  /** Frames must come in rising order; those that are not wanted may be left out. */
  take(frame: Frames, smallFrame: Uint8Array): void {
    this.#frames.set(frame, smallFrame);
    while (this.#next < this.#slots.length && frame >= framesAroundChange(this.#slots, this.#next).to)
      this.#handOver(frame);
  }

  /**
   * The film has ended before this frame: what is not complete is handed over as far as it goes.
   */
  end(frameCount: number): void {
    while (this.#next < this.#slots.length) this.#handOver(frameCount - 1);
    this.#frames.clear();
  }

  #handOver(lastFrame: Frames): void {
    const { from, to } = framesAroundChange(this.#slots, this.#next);
    const smallFrames: Uint8Array[] = [];
    for (let frame = from; frame <= Math.min(to, lastFrame); frame++) {
      const smallFrame = this.#frames.get(frame);
      if (smallFrame) smallFrames.push(smallFrame);
    }
    this.#onChange({ index: this.#next, fromFrame: from, smallFrames });
    this.#next++;
    const keepFrom =
      this.#next < this.#slots.length ? framesAroundChange(this.#slots, this.#next).from : Number.POSITIVE_INFINITY;
    for (const frame of this.#frames.keys()) if (frame < keepFrom) this.#frames.delete(frame);
  }
}

/**
 * First and last frame (inclusive) to look at for the change into a slot, 1 and up: both ends show
 * one picture alone, a dozen frames beside the planned transition, but never inside the transitions
 * next to it.
 */
export function framesAroundChange(slots: readonly WatchedSlot[], index: number): { from: number; to: number } {
  const slot = slots[index];
  if (!slot) return { from: Number.POSITIVE_INFINITY, to: Number.POSITIVE_INFINITY };
  const { transitionIn, startFrame } = slot;
  const before = itemAt(slots, index - 1);
  const next = slots[index + 1];
  const first = Math.min(transitionIn.startFrame, startFrame) - 1;
  const last = Math.max(transitionIn.endFrame, startFrame);
  const free = index > 1 ? Math.max(before.transitionIn.endFrame, before.startFrame) : 0;
  const busy = next ? Math.min(next.transitionIn.startFrame, next.startFrame) : slot.endFrame;
  return {
    from: Math.max(0, Math.min(first, free), first - SEARCH_FRAMES),
    to: Math.min(Math.max(last, busy - 1), last + SEARCH_FRAMES),
  };
}

/**
 * How much of the new picture is in each small frame of a change, by least squares between the
 * first and the last of them.
 */
export function sharesOf({ smallFrames }: Pick<SeenChange, "smallFrames">): number[] {
  const [before, after] = [itemAt(smallFrames, 0), lastOf(smallFrames)];
  return smallFrames.map((one) => shareOfAfter(one, before, after));
}

/**
 * By how many frames seen shares lie behind the expected ones (negative: before them): the shift
 * with the least squared difference, within the search; the nearest to none of equally good ones.
 * Outside what is expected, the ends go on. Shares are compared up to scale and offset: encoding
 * changes the two pictures that shares are measured between, and with them all shares alike. For
 * pictures that look much the same that is more than a frame's worth.
 */
export function shiftOfShares(seen: readonly number[], expected: readonly number[]): number {
  const at = (i: number): number => itemAt(expected, Math.max(0, Math.min(expected.length - 1, i)));
  let best = { shift: 0, cost: Number.POSITIVE_INFINITY };
  for (let step = 0; step <= 2 * SEARCH_FRAMES; step++) {
    const shift = step % 2 === 0 ? 0 - step / 2 : (step + 1) / 2;
    const cost = unexplained(
      seen,
      seen.map((_, i) => at(i - shift)),
    );
    if (cost < best.cost - 1e-12) best = { shift, cost };
  }
  return best.shift;
}

/**
 * What is left of `values` behind the best straight line that rises with `by` (least squares): sum
 * of squares.
 */
function unexplained(values: readonly number[], by: readonly number[]): number {
  const mean = (list: readonly number[]): number => list.reduce((sum, value) => sum + value, 0) / list.length;
  const [meanValue, meanBy] = [mean(values), mean(by)];
  let [all, along, spread] = [0, 0, 0];
  for (const [i, value] of values.entries()) {
    all += (value - meanValue) ** 2;
    along += (value - meanValue) * (itemAt(by, i) - meanBy);
    spread += (itemAt(by, i) - meanBy) ** 2;
  }
  return along > 0 && spread > 0 ? all - along ** 2 / spread : all;
}

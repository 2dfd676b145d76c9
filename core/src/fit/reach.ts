import { itemAt, lastOf } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import {
  longestSeconds,
  type OrderProblem,
  type SlotWish,
  shortestSeconds,
  TOLERANCE_SECONDS,
} from "./order-problem.ts";
import { firstAtOrAfter } from "./places.ts";

/**
 * Whether locks, minima and the material of clips leave any way at all to lay the slots, however
 * long pictures stand. Exact for landings and locks. O(slots * landings between locks), so that it
 * can be asked for many sets of locks.
 */
export function isPossible(problem: OrderProblem): boolean {
  const { slots, ends } = problem;
  const fixed = fixedBeginnings(problem);
  if (Math.abs(fixed[0] ?? 0) > TOLERANCE_SECONDS) return false;
  const latest = latestBeginnings(problem, fixed);
  const offered = secondsOf(problem.landings);
  let begins: Float64Array = Float64Array.of(0);
  for (const [k, slot] of slots.slice(0, -1).entries()) {
    const reach = { from: itemAt(begins, 0) + shortestSeconds(slot), to: itemAt(latest, k + 1) + TOLERANCE_SECONDS };
    const targets = targetsOf(problem, k, itemAt(fixed, k + 1), begins, offered, reach);
    begins = reached(begins, slot, targets);
    if (begins.length === 0) return false;
  }
  const last = lastOf(slots);
  return ends.some(({ seconds }) => reached(begins, last, Float64Array.of(seconds)).length > 0);
}

/** Many sets of locks are asked about on the same landings. */
const knownSeconds = new WeakMap<OrderProblem["landings"], Float64Array>();

function secondsOf(landings: OrderProblem["landings"]): Float64Array {
  const known = knownSeconds.get(landings) ?? Float64Array.from(landings, ({ seconds }) => seconds);
  knownSeconds.set(landings, known);
  return known;
}

/** The latest moment that each slot can begin, so that those behind it have their minima. */
function latestBeginnings({ slots, ends }: OrderProblem, fixed: readonly (number | null)[]): Float64Array {
  const latest = new Float64Array(slots.length + 1).fill(lastOf(ends).seconds);
  for (let k = slots.length - 1; k >= 0; k--)
    latest[k] = Math.min(itemAt(latest, k + 1) - shortestSeconds(itemAt(slots, k)), fixed[k] ?? Infinity);
  return latest;
}

/**
 * The moments that the slot behind slot k could begin on, rising, some of which may be out of
 * reach.
 */
function targetsOf(
  { slots }: OrderProblem,
  k: number,
  fixed: number | null,
  begins: Float64Array,
  offered: Float64Array,
  { from, to }: { readonly from: number; readonly to: number },
): Float64Array {
  if (fixed !== null) return Float64Array.of(fixed);
  const length = itemAt(slots, k).lengthLockSeconds;
  if (length !== null) return begins.map((at) => landed(at + length, offered)).filter((at) => at <= to);
  const first = firstAtOrAfter(offered, from);
  const inReach = offered.subarray(first, Math.max(first, firstAtOrAfter(offered, to)));
  const { allowed } = itemAt(slots, k + 1);
  if (!allowed) return inReach;
  return inReach.filter((_, i) => allowed[first + i] === 1);
}

/** A moment, or the landing that is within the tolerance of it. */
function landed(seconds: Seconds, offered: Float64Array): number {
  const place = firstAtOrAfter(offered, seconds - TOLERANCE_SECONDS);
  return place < offered.length && itemAt(offered, place) <= seconds + TOLERANCE_SECONDS
    ? itemAt(offered, place)
    : seconds;
}

/** The targets on which a slot can end that begins on one of `begins`. Both lists rise. */
function reached(begins: Float64Array, slot: SlotWish, targets: Float64Array): Float64Array {
  const [shortest, longest] = [shortestSeconds(slot), longestSeconds(slot, Infinity)];
  // Whatever may stand as long as it likes reaches all that is far enough from where it can begin
  // first.
  if (longest === Infinity) return targets.subarray(firstAtOrAfter(targets, itemAt(begins, 0) + shortest));
  const found = new Float64Array(targets.length);
  let count = 0;
  let from = 0;
  for (const seconds of targets) {
    while (from < begins.length && seconds - begins[from]! > longest) from++;
    if (from < begins.length && seconds - begins[from]! >= shortest) found[count++] = seconds;
  }
  return found.subarray(0, count);
}

/**
 * Where each slot must begin: on its lock, or so long before a fixed end as its locked length says,
 * on a landing or not. Null where it is free.
 */
export function fixedBeginnings({ slots, ends, landings }: OrderProblem): (number | null)[] {
  const fixed: (number | null)[] = [];
  let end = ends.length === 1 ? itemAt(ends, 0).seconds : null;
  for (const { landingLock, lengthLockSeconds } of slots.toReversed()) {
    const byLength = lengthLockSeconds === null || end === null ? null : end - lengthLockSeconds;
    end = landingLock === null ? byLength : itemAt(landings, landingLock).seconds;
    fixed.unshift(end);
  }
  return fixed;
}

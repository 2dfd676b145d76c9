import { itemAt } from "../presence/index.ts";

/** So many pairs are tried when a conflict of three or more is made smaller. */
const MOST_PAIRS = 60;

/**
 * A set of locks that cannot hold together, of which none can be missed: the smallest one if it has
 * one or two locks. Where three or more are left, 60 pairs have been tried and no others. `holds`
 * says whether all of some locks can be kept at once; it fails for all of them. Locks in the order
 * of the film; of sets equally small the one that is met first. Cost: as many trials as there are
 * locks, some for each lock named (they are found by halving, as in QuickXplain, Junker 2004), and
 * the pairs.
 */
export function smallestConflict<Lock>(locks: readonly Lock[], holds: (kept: readonly Lock[]) => boolean): Lock[] {
  const alone = locks.find((lock) => !holds([lock]));
  if (alone !== undefined) return [alone];
  const found = new Set(needed([], false, locks, holds));
  const conflict = locks.filter((lock) => found.has(lock));
  if (conflict.length <= 2) return conflict;
  let tried = 0;
  for (let a = 0; a < locks.length; a++) {
    for (let b = a + 1; b < locks.length && tried < MOST_PAIRS; b++, tried++) {
      if (!holds([itemAt(locks, a), itemAt(locks, b)])) return [itemAt(locks, a), itemAt(locks, b)];
    }
  }
  return conflict;
}

/**
 * The locks that a conflict needs beside `others`. `added`: whether `others` has grown since the
 * last trial.
 */
function needed<Lock>(
  others: readonly Lock[],
  added: boolean,
  locks: readonly Lock[],
  holds: (kept: readonly Lock[]) => boolean,
): readonly Lock[] {
  if (added && !holds(others)) return [];
  if (locks.length === 1) return locks;
  const half = locks.length >> 1;
  const [first, second] = [locks.slice(0, half), locks.slice(half)];
  const ofSecond = needed([...others, ...first], true, second, holds);
  const ofFirst = needed([...others, ...ofSecond], ofSecond.length > 0, first, holds);
  return [...ofFirst, ...ofSecond];
}

/** More pairs than this are not tried when a conflict of three or more is made smaller. */
const MOST_PAIRS = 300;

/**
 * The smallest set of locks that cannot hold together: none of them can be missed, and where three or more remain, every pair (up to 300 of them) was tried.
 * `holds` says whether all of some locks can be kept at once; it fails for all of them. Locks in the order of the film; of sets equally small the one found first.
 * Cost: as many trials as there are locks, twice, and the pairs.
 */
export function smallestConflict<Lock>(locks: readonly Lock[], holds: (kept: readonly Lock[]) => boolean): Lock[] {
  const alone = locks.find((lock) => !holds([lock]));
  if (alone !== undefined) return [alone];
  let conflict = [...locks];
  // From the end of the film, so that what a person meets first is named first.
  for (let i = conflict.length - 1; i >= 0; i--) {
    const without = conflict.toSpliced(i, 1);
    if (!holds(without)) conflict = without;
  }
  if (conflict.length <= 2) return conflict;
  let tried = 0;
  for (let a = 0; a < locks.length; a++) {
    for (let b = a + 1; b < locks.length && tried < MOST_PAIRS; b++, tried++) {
      if (!holds([locks[a]!, locks[b]!])) return [locks[a]!, locks[b]!];
    }
  }
  return conflict;
}

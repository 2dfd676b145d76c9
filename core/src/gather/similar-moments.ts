import { fingerprintDistance } from "./fingerprint.ts";

export interface LookedAt {
  readonly id: string;
  readonly fingerprint: string | null;
  /** Time on the common clock; null where unknown. */
  readonly seconds: number | null;
}

/** Two looks at one moment are taken within this. */
const MOMENT_SECONDS = 20;
/** Differing share of the fingerprint within a moment: the hand and the people moved a little. */
const SAME_MOMENT = 0.2;
/** At any time: the same picture saved twice, or edited. */
const SAME_PICTURE = 0.06;

/**
 * Groups of nearly equal pictures, each of two or more ids in the order given. Pictures belong together where a chain of likenesses
 * joins them. Nothing is ever dropped by this; it only points. O(n^2) in comparisons of 32 bytes: 1,024 pictures take some tens of
 * milliseconds, so not on a page's main thread.
 */
export function similarMoments(pictures: readonly LookedAt[]): string[][] {
  const parent = pictures.map((_, index) => index);
  const root = (index: number): number => {
    let at = index;
    while (parent[at] !== at) {
      parent[at] = parent[parent[at]!]!;
      at = parent[at]!;
    }
    return at;
  };
  for (let i = 0; i < pictures.length; i++) {
    for (let j = i + 1; j < pictures.length; j++) {
      if (root(i) !== root(j) && alike(pictures[i]!, pictures[j]!))
        parent[Math.max(root(i), root(j))] = Math.min(root(i), root(j));
    }
  }
  const groups = new Map<number, string[]>();
  for (const [index, { id }] of pictures.entries()) {
    const group = groups.get(root(index));
    if (group) group.push(id);
    else groups.set(root(index), [id]);
  }
  return [...groups.values()].filter((group) => group.length > 1);
}

function alike(a: LookedAt, b: LookedAt): boolean {
  if (a.fingerprint === null || b.fingerprint === null) return false;
  const distance = fingerprintDistance(a.fingerprint, b.fingerprint);
  if (distance <= SAME_PICTURE) return true;
  const near = a.seconds !== null && b.seconds !== null && Math.abs(a.seconds - b.seconds) <= MOMENT_SECONDS;
  return near && distance <= SAME_MOMENT;
}

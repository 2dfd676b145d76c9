import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { likeness, slopesOf } from "./fingerprint.ts";

export interface ComparedPicture {
  readonly id: string;
  readonly fingerprint: string | null;
  /** Time on the common clock; null where unknown. */
  readonly seconds: Seconds | null;
}

/** Two looks at one moment are taken within this. */
const MOMENT_SECONDS = 20;
/** Likeness within a moment: the hand and the people moved a little. */
const SAME_MOMENT = 0.75;
/** At any time: the same picture saved twice, or edited. */
const SAME_PICTURE = 0.97;

/**
 * Groups of nearly equal pictures, each of two or more ids in the order given. Pictures belong
 * together where a chain of likenesses joins them. Nothing is ever dropped by this; it only points.
 * O(n^2) in comparisons of 480 numbers: 1,024 pictures take a second or two, so not on a page's
 * main thread.
 */
export function similarMoments(pictures: readonly ComparedPicture[]): string[][] {
  const slopes = pictures.map(({ fingerprint }) => (fingerprint === null ? null : slopesOf(fingerprint)));
  const parent = pictures.map((_, index) => index);
  const root = (index: number): number => {
    let at = index;
    while (parent[at] !== at) {
      parent[at] = itemAt(parent, itemAt(parent, at));
      at = itemAt(parent, at);
    }
    return at;
  };
  const alike = (i: number, j: number): boolean => {
    const [a, b] = [slopes[i], slopes[j]];
    return !!a && !!b && isSameMoment(likeness(a, b), itemAt(pictures, i).seconds, itemAt(pictures, j).seconds);
  };
  for (let i = 0; i < pictures.length; i++) {
    for (let j = i + 1; j < pictures.length; j++) {
      if (root(i) !== root(j) && alike(i, j)) parent[Math.max(root(i), root(j))] = Math.min(root(i), root(j));
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

/**
 * Whether pictures that are so alike show one moment: within 20 s of each other, or the same
 * picture.
 */
export function isSameMoment(alike: number, first: number | null, second: number | null): boolean {
  if (alike < SAME_MOMENT) return false;
  const near = first !== null && second !== null && Math.abs(first - second) <= MOMENT_SECONDS;
  return alike >= SAME_PICTURE || near;
}

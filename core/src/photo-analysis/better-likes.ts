import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { likeness, slopesOf } from "./fingerprint.ts";
import { byQuality, type PictureQuality } from "./picture-quality.ts";
import { isSameMoment } from "./similar-moments.ts";

/** A picture of a show, in the order in which pictures are shown. */
export interface PictureInOrder extends PictureQuality {
  readonly fingerprint: string | null;
  /** Time on the common clock; null where unknown. */
  readonly seconds: Seconds | null;
}

/** Only pictures so near to each other in the show are compared: of others both may be wanted. */
const NEAR_PLACES = 8;

/**
 * For each picture, whether one near it in the show has the same moment, and better: its faces or
 * else its sharpest part are sharper, or it is as sharp and comes first. So of every set of
 * near-identical pictures just one has no better one. O(n) comparisons of 480 numbers: a thousand
 * pictures take some milliseconds.
 */
export function haveBetterLikes(pictures: readonly PictureInOrder[]): boolean[] {
  const have = pictures.map(() => false);
  for (const [i, first] of pictures.entries()) {
    if (first.fingerprint === null) continue;
    for (let j = i + 1; j <= i + NEAR_PLACES && j < pictures.length; j++) {
      const second = itemAt(pictures, j);
      if (second.fingerprint === null) continue;
      const alike = likeness(knownSlopes(first.fingerprint), knownSlopes(second.fingerprint));
      if (!isSameMoment(alike, first.seconds, second.seconds)) continue;
      have[byQuality(second, first) < 0 ? i : j] = true;
    }
  }
  return have;
}

/** Slopes are two kilobytes each, and are asked for at every laying of a show. */
const MOST_KNOWN = 4096;
const known = new Map<string, Float32Array>();

function knownSlopes(fingerprint: string): Float32Array {
  const found = known.get(fingerprint);
  if (found) return found;
  if (known.size >= MOST_KNOWN) known.clear();
  const slopes = slopesOf(fingerprint);
  known.set(fingerprint, slopes);
  return slopes;
}

import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";

/** Material of a clip before and behind the moment that should fall on an accent. */
export interface Moment {
  readonly beforeSeconds: Seconds;
  readonly afterSeconds: Seconds;
}

/**
 * Whether one of the accents inside a slot can have the moment under it: the clip's material must
 * reach to both ends of the slot.
 */
export function findsAccent(moment: Moment, from: number, to: number, accentSeconds: ArrayLike<number>): boolean {
  const first = Math.max(from, to - moment.afterSeconds);
  const last = Math.min(to, from + moment.beforeSeconds);
  for (let i = 0; i < accentSeconds.length; i++) {
    if (itemAt(accentSeconds, i) >= first && itemAt(accentSeconds, i) <= last) return true;
  }
  return false;
}

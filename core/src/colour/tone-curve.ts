import { nitsOfPq, pqOfNits } from "./transfer.ts";

/**
 * The tone curve of ITU-R BT.2390-11, section 5.4.1, for a display without a black level of its
 * own: light below a knee stays as it is, light above is bent so that `peakNits` comes to
 * `targetNits`. Both in candelas a square metre; a peak below the target stays as it is. O(1).
 */
export function toneCurve(peakNits: number, targetNits: number): (nits: number) => number {
  if (peakNits <= targetNits) return (nits) => nits;
  const peak = pqOfNits(peakNits);
  const most = pqOfNits(targetNits) / peak;
  const knee = 1.5 * most - 0.5;
  return (nits) => {
    const code = Math.min(1, pqOfNits(nits) / peak);
    if (code < knee) return nits;
    const t = (code - knee) / (1 - knee);
    const bent =
      (2 * t ** 3 - 3 * t ** 2 + 1) * knee + (t ** 3 - 2 * t ** 2 + t) * (1 - knee) + (-2 * t ** 3 + 3 * t ** 2) * most;
    return nitsOfPq(bent * peak);
  };
}

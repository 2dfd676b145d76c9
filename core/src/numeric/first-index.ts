/**
 * The first index, from 0 up to and without `length`, for which `holds` is true; `length` where it
 * is true for none. Once true, `holds` must stay true for all greater indices. O(log length).
 *
 * For example `firstIndex(4, (i) => [1, 3, 3, 7][i]! >= 3)` is 1.
 */
export function firstIndex(length: number, holds: (index: number) => boolean): number {
  let low = 0;
  let high = length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if (holds(middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}

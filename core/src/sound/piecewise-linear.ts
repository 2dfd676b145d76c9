import { firstIndex } from "../numeric/index.ts";
import { itemAt, lastOf } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";

/**
 * Straight lines between points whose inputs rise; before the first and after the last point output
 * goes on as fast as input. Beyond its known moments music is played as it was recorded. `inputOf`
 * and `outputOf` read a point. At least one point. O(points).
 */
export function piecewiseLinear<Point>(
  points: readonly Point[],
  inputOf: (point: Point) => number,
  outputOf: (point: Point) => number,
  input: number,
): number {
  const [first, last] = [itemAt(points, 0), lastOf(points)];
  if (input <= inputOf(first)) return outputOf(first) + input - inputOf(first);
  if (input >= inputOf(last)) return outputOf(last) + input - inputOf(last);
  const next = points.findIndex((point) => inputOf(point) > input);
  const [from, to] = [itemAt(points, next - 1), itemAt(points, next)];
  const share = (input - inputOf(from)) / (inputOf(to) - inputOf(from));
  return outputOf(from) + share * (outputOf(to) - outputOf(from));
}

/**
 * Straight lines between points in order of time; before the first and after the last the value
 * holds. At least one point. O(log points).
 */
export function piecewiseLinearHeld<Point extends { readonly seconds: Seconds }>(
  points: readonly Point[],
  valueOf: (point: Point) => number,
  seconds: Seconds,
): number {
  const first = itemAt(points, 0);
  if (seconds <= first.seconds) return valueOf(first);
  const next = firstIndex(points.length, (index) => itemAt(points, index).seconds > seconds);
  if (next === points.length) return valueOf(lastOf(points));
  const [left, right] = [itemAt(points, next - 1), itemAt(points, next)];
  const share = (seconds - left.seconds) / (right.seconds - left.seconds);
  return valueOf(left) + share * (valueOf(right) - valueOf(left));
}

/**
 * Straight lines between points whose inputs rise; before the first and after the last point output goes on as fast as input, since beyond its known
 * moments music is played as it was recorded. `inputOf` and `outputOf` read a point. At least one point. O(points).
 */
export function alongLines<Point>(
  points: readonly Point[],
  inputOf: (point: Point) => number,
  outputOf: (point: Point) => number,
  input: number,
): number {
  const [first, last] = [points[0]!, points.at(-1)!];
  if (input <= inputOf(first)) return outputOf(first) + input - inputOf(first);
  if (input >= inputOf(last)) return outputOf(last) + input - inputOf(last);
  const next = points.findIndex((point) => inputOf(point) > input);
  const [from, to] = [points[next - 1]!, points[next]!];
  const share = (input - inputOf(from)) / (inputOf(to) - inputOf(from));
  return outputOf(from) + share * (outputOf(to) - outputOf(from));
}

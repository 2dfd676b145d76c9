import { itemAt } from "../../presence/index.ts";

/**
 * A pulse through noisy times: the x that minimise sum w (x - t)^2 + stiffness sum (x[i-1] - 2 x[i]
 * + x[i+1])^2 (a discrete smoothing spline, Whittaker 1923). At least two weights are above 0.
 * Solved by elimination in the band of five diagonals, O(length). Fewer than three times are
 * returned as they are.
 */
export function evenPulse(times: readonly number[], weights: readonly number[], stiffness: number): number[] {
  const n = times.length;
  if (n < 3) return [...times];
  const diagonal = Float64Array.from(weights);
  const next = new Float64Array(n);
  const second = new Float64Array(n);
  for (let i = 1; i + 1 < n; i++) {
    add(diagonal, i - 1, stiffness);
    add(diagonal, i, 4 * stiffness);
    add(diagonal, i + 1, stiffness);
    add(next, i - 1, -2 * stiffness);
    add(next, i, -2 * stiffness);
    add(second, i - 1, stiffness);
  }
  const right = Float64Array.from(times, (time, i) => itemAt(weights, i) * time);
  for (let i = 0; i < n; i++) {
    for (let k = 1; k <= 2 && i + k < n; k++) {
      const factor = (k === 1 ? itemAt(next, i) : itemAt(second, i)) / itemAt(diagonal, i);
      if (k === 1) {
        add(diagonal, i + 1, -factor * itemAt(next, i));
        add(next, i + 1, -factor * itemAt(second, i));
      } else {
        add(diagonal, i + 2, -factor * itemAt(second, i));
      }
      add(right, i + k, -factor * itemAt(right, i));
    }
  }
  const solved = new Array<number>(n);
  for (let i = n - 1; i >= 0; i--) {
    const tail =
      (i + 1 < n ? itemAt(next, i) * itemAt(solved, i + 1) : 0) +
      (i + 2 < n ? itemAt(second, i) * itemAt(solved, i + 2) : 0);
    solved[i] = (itemAt(right, i) - tail) / itemAt(diagonal, i);
  }
  return solved;
}

function add(list: Float64Array, index: number, by: number): void {
  list[index] = itemAt(list, index) + by;
}

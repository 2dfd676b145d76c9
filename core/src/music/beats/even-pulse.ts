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
    diagonal[i - 1]! += stiffness;
    diagonal[i]! += 4 * stiffness;
    diagonal[i + 1]! += stiffness;
    next[i - 1]! -= 2 * stiffness;
    next[i]! -= 2 * stiffness;
    second[i - 1]! += stiffness;
  }
  const right = Float64Array.from(times, (time, i) => weights[i]! * time);
  for (let i = 0; i < n; i++) {
    for (let k = 1; k <= 2 && i + k < n; k++) {
      const factor = (k === 1 ? next[i]! : second[i]!) / diagonal[i]!;
      if (k === 1) {
        diagonal[i + 1]! -= factor * next[i]!;
        next[i + 1]! -= factor * second[i]!;
      } else {
        diagonal[i + 2]! -= factor * second[i]!;
      }
      right[i + k]! -= factor * right[i]!;
    }
  }
  const solved = new Array<number>(n);
  for (let i = n - 1; i >= 0; i--) {
    const tail = (i + 1 < n ? next[i]! * solved[i + 1]! : 0) + (i + 2 < n ? second[i]! * solved[i + 2]! : 0);
    solved[i] = (right[i]! - tail) / diagonal[i]!;
  }
  return solved;
}

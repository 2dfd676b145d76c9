import { itemAt } from "@humming-tide/core/presence";
export const median = (values: readonly number[]): number =>
  itemAt(
    [...values].sort((a, b) => a - b),
    Math.floor(values.length / 2),
  );

export const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/** Wall time of some work in seconds. */
export async function wallSeconds(work: () => Promise<void> | void): Promise<number> {
  const start = performance.now();
  await work();
  return (performance.now() - start) / 1000;
}

import { fitSlides } from "@humming-tide/core/fit";
import { median, wallSeconds } from "./measure.ts";

const RUNS = 9;

/** Time to lay slides from nothing, on one thread. */
export async function benchFit(): Promise<void> {
  for (const [count, minutes] of [
    [60, 4],
    [140, 10],
    [1000, 20],
  ] as const) {
    const beats = Array.from({ length: minutes * 120 }, (_, i) => ({ seconds: 0.3 + i * 0.5, position: (i % 4) + 1 }));
    const slides = Array.from({ length: count }, (_, i) => ({
      id: `s${i}`,
      rating: "keep" as const,
      landingLockSeconds: null,
    }));
    const request = { slides, beats, beatsPerBar: 4, endSeconds: minutes * 60, pace: { kind: "auto" as const } };
    const times: number[] = [];
    for (let run = 0; run < RUNS; run++) times.push(await wallSeconds(() => void fitSlides(request)));
    console.log(`  ${count} slides on ${minutes} minutes: ${(1000 * median(times)).toFixed(1)} ms (median of ${RUNS})`);
  }
}

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { propertyRuns } from "../testing/index.ts";
import { type DecibelCurve, decibels, decibelsAt, duckingCurve, gainAt, gainOfDecibels, lowerOf } from "./index.ts";

const DUCKING = { decibels: 12, attackSeconds: 0.4, holdSeconds: 0.5, releaseSeconds: 1 };
const stretch = fc
  .tuple(fc.double({ min: 0, max: 60, noNaN: true }), fc.double({ min: 0.05, max: 8, noNaN: true }))
  .map(([startSeconds, length]) => ({ startSeconds, endSeconds: startSeconds + length }));

/**
 * What one stretch alone asks for at a time: written down from the meaning of attack, hold and
 * release.
 */
function askedAt({ startSeconds, endSeconds }: { startSeconds: number; endSeconds: number }, t: number): number {
  const { decibels: depth, attackSeconds, holdSeconds, releaseSeconds } = DUCKING;
  const up = endSeconds + holdSeconds;
  if (t < startSeconds) return -depth * Math.max(0, 1 - (startSeconds - t) / attackSeconds);
  if (t <= up) return -depth;
  return -depth * Math.max(0, 1 - (t - up) / releaseSeconds);
}

/** Over a stretch of time, looked at every twentieth of a second. */
function largestError(from: number, to: number, errorAt: (t: number) => number): number {
  let largest = 0;
  for (let t = from; t < to; t += 0.0513) largest = Math.max(largest, Math.abs(errorAt(t)));
  return largest;
}

describe("ducking", () => {
  it("is at every time what the stretch that asks for most asks for", () => {
    fc.assert(
      fc.property(fc.array(stretch, { minLength: 1, maxLength: 8 }), (speech) => {
        const curve = duckingCurve(speech, DUCKING);
        expect(
          largestError(-2, 75, (t) => decibelsAt(curve, t) - Math.min(...speech.map((one) => askedAt(one, t)))),
        ).toBeLessThan(1e-6);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("is nothing without speech or depth", () => {
    expect(duckingCurve([], DUCKING)).toEqual([]);
    expect(duckingCurve([{ startSeconds: 1, endSeconds: 2 }], { ...DUCKING, decibels: 0 })).toEqual([]);
  });
});

const curve: fc.Arbitrary<DecibelCurve> = fc
  .uniqueArray(
    fc.record({
      seconds: fc.double({ min: 0, max: 20, noNaN: true }),
      decibels: fc.double({ min: -30, max: 6, noNaN: true }),
    }),
    { minLength: 1, maxLength: 7, selector: ({ seconds }) => Math.round(seconds * 20) },
  )
  .map((points) => points.sort((a, b) => a.seconds - b.seconds));

describe("curves in decibels", () => {
  it("the lower of two is the lower at every time", () => {
    fc.assert(
      fc.property(curve, curve, (a, b) => {
        const lower = lowerOf(a, b);
        expect(
          largestError(-1, 22, (t) => decibelsAt(lower, t) - Math.min(decibelsAt(a, t), decibelsAt(b, t))),
        ).toBeLessThan(1e-6);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("as gain they are off by 0.02 dB at most", () => {
    fc.assert(
      fc.property(curve, (points) => {
        const gain = gainOfDecibels(points);
        expect(largestError(-1, 22, (t) => decibels(gainAt(gain, t)) - decibelsAt(points, t))).toBeLessThan(0.02);
      }),
      { numRuns: propertyRuns },
    );
  });
});

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present } from "../presence/index.ts";
import { frameDifference, indexOfShownChange, shareOfAfter, soundLag } from "./index.ts";

describe("the shown change", () => {
  const before = Float64Array.from({ length: 60 }, (_, i) => (i * 37) % 200);
  const after = Float64Array.from({ length: 60 }, (_, i) => (i * 91 + 40) % 250);
  const mixed = (share: number, noise = 0): number[] =>
    [...before].map((value, i) => value + share * (itemAt(after, i) - value) + noise * Math.sin(i * 12.9));

  it("reads back the share that two pictures were mixed with", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (share) => {
        expect(shareOfAfter(mixed(share), before, after)).toBeCloseTo(share, 9);
        expect(shareOfAfter(mixed(share, 2), before, after)).toBeCloseTo(share, 1);
      }),
    );
    expect(frameDifference(mixed(0), before)).toBe(0);
  });

  it("is the first new frame of a cut and the middle of a dissolve", () => {
    expect(indexOfShownChange([0, 0, 0, 1, 1])).toBe(3);
    expect(indexOfShownChange([0, 0.25, 0.5, 0.75, 1])).toBe(2);
    expect(indexOfShownChange([0, 0.1, 0.45, 0.8, 1])).toBe(2);
    expect(indexOfShownChange([0, 0.1, 0.3, 0.6, 1])).toBe(3);
    expect(indexOfShownChange([0, 0.01, 0.02, 0.01])).toBeNull();
  });

  it("is the middle frame of a long dissolve although encoding moves every share a little", () => {
    const seed = fc.integer({ min: 0, max: 10_000 });
    fc.assert(
      fc.property(fc.integer({ min: 4, max: 60 }), seed, (half, phase) => {
        const shares = Array.from({ length: 2 * half + 3 }, (_, i) => {
          return Math.min(1, Math.max(0, i / (2 * half + 2))) + 0.008 * Math.sin(phase + i * 7.7);
        });
        expect(indexOfShownChange(shares)).toBe(half + 1);
      }),
    );
  });
});

describe("the lag of sound", () => {
  /** Music that repeats every half second, as music does, under a slow change. */
  const music = Float32Array.from({ length: 48_000 }, (_, i) => {
    const beat = i % 6000;
    return Math.sin(beat * 0.21) * Math.exp(-beat / 700) + 0.3 * Math.sin(i * 0.013 + (i / 9000) ** 2);
  });
  const shifted = (lag: number): Float32Array => music.map((_, i) => music[i - lag] ?? 0);

  it("is found to the sample, early and late", () => {
    fc.assert(
      fc.property(fc.integer({ min: -4000, max: 4000 }), (lag) => {
        const found = present(soundLag(music, shifted(lag), 5000));
        expect(found.samples).toBeCloseTo(lag, 0);
        expect(found.match).toBeGreaterThan(0.8);
      }),
      { numRuns: 30 },
    );
  });

  it("does not match other music, and says nothing about silence", () => {
    const other = music.map((_, i) => Math.sin(i * 0.37 + Math.sin(i * 0.002) * 40));
    expect(present(soundLag(music, other, 5000)).match).toBeLessThan(0.3);
    expect(soundLag(music, new Float32Array(48_000), 5000)).toBeNull();
  });
});

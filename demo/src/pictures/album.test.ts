import { describe, expect, it } from "vitest";
import { album } from "./album.ts";

describe("the album", () => {
  const pictures = album(7);

  it("holds sixty pictures of mixed shapes and orientations, in order of capture", () => {
    expect(pictures).toHaveLength(60);
    const shapes = new Set(pictures.map(({ width, height }) => Math.sign(width - height)));
    expect(shapes).toEqual(new Set([-1, 0, 1]));
    expect(new Set(pictures.map(({ orientation }) => orientation))).toEqual(new Set([1, 3, 6, 8]));
    const times = pictures.map(({ capturedAt }) => capturedAt);
    expect(times.every((time, i) => i === 0 || time.slice(0, 16) >= times[i - 1]!.slice(0, 16))).toBe(true);
    expect(new Set(pictures.map(({ fileName }) => fileName)).size).toBe(60);
  });

  it("paints the same picture for the same seed, and another for another", () => {
    const paint = (seed: number): Buffer => Buffer.from(album(seed)[20]!.paint().canvas.data());
    expect(paint(7).equals(paint(7))).toBe(true);
    expect(paint(7).equals(paint(8))).toBe(false);
  });
});

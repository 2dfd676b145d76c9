import { commonSeconds } from "@humming-tide/core/photo-analysis";
import { itemAt, present } from "@humming-tide/core/presence";
import { describe, expect, it } from "vitest";
import { album, CAMERAS } from "./album.ts";

describe("the album", () => {
  const pictures = album(7);

  it("holds sixty pictures of mixed shapes and orientations, in order of capture", () => {
    expect(pictures).toHaveLength(60);
    const shapes = new Set(pictures.map(({ width, height }) => Math.sign(width - height)));
    expect(shapes).toEqual(new Set([-1, 0, 1]));
    expect(new Set(pictures.map(({ orientation }) => orientation))).toEqual(new Set([1, 3, 6, 8]));
    // On one clock, as a show has it after the phone's is put right.
    const offsets = Object.fromEntries(CAMERAS.map(({ model, fastMinutes }) => [model, -60 * fastMinutes]));
    const seconds = pictures.map(({ capturedAt, camera }) => {
      const [day, time] = capturedAt.split(" ");
      return present(
        commonSeconds({ capturedAt: `${present(day).replaceAll(":", "-")}T${time}`, camera: camera.model }, offsets),
      );
    });
    // Pictures of the same minute may change places.
    const minutes = seconds.map((value) => Math.floor(value / 60));
    expect(minutes.every((minute, i) => i === 0 || minute >= itemAt(minutes, i - 1))).toBe(true);
    expect(new Set(pictures.map(({ camera }) => camera.model)).size).toBe(2);
    expect(new Set(pictures.map(({ fileName }) => fileName)).size).toBe(60);
  });

  it("paints the same picture for the same seed, and another for another", () => {
    const paint = (seed: number): Buffer => Buffer.from(itemAt(album(seed), 20).paint().canvas.data());
    expect(paint(7).equals(paint(7))).toBe(true);
    expect(paint(7).equals(paint(8))).toBe(false);
  });
});

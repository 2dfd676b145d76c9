import { mainOutput, newShowDocument, newShowSong } from "@humming-tide/core/show";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  outputDetails,
  outputText,
  partLength,
  SHARPNESS,
  shapeName,
  shapesFor,
  sharpnessOf,
  sizeOf,
} from "./output-words.ts";

const shape = fc.constantFrom("16:9", "4:5", "1:1", "9:16");

describe("a film of a shape", () => {
  it("has even sides, the shape within a pixel, and the sharpness that was asked for", () => {
    fc.assert(
      fc.property(shape, fc.constantFrom(...SHARPNESS), (name, { value }) => {
        const { width, height } = sizeOf(name, Number(value));
        const [across, down] = name.split(":").map(Number) as [number, number];
        expect([width % 2, height % 2]).toEqual([0, 0]);
        expect(Math.min(width, height)).toBe(Number(value));
        expect(Math.abs(width - (height * across) / down)).toBeLessThanOrEqual(1);
        expect(sharpnessOf({ width, height })).toBe(value);
      }),
    );
  });

  it("is called by the nearest sharpness, as many times larger as smaller", () => {
    fc.assert(
      fc.property(fc.integer({ min: 100, max: 5000 }), fc.integer({ min: 100, max: 5000 }), (width, height) => {
        const times = (value: string): number => {
          const ratio = Number(value) / Math.min(width, height);
          return Math.max(ratio, 1 / ratio);
        };
        const nearest = Math.min(...SHARPNESS.map(({ value }) => times(value)));
        expect(times(sharpnessOf({ width, height }))).toBeCloseTo(nearest, 9);
      }),
    );
  });

  it("is offered in the usual shapes, and in the show's own where it is another", () => {
    expect(shapesFor({ width: 1920, height: 1080 })).toEqual(["16:9", "4:5", "1:1", "9:16"]);
    expect(shapesFor({ width: 1440, height: 1080 })).toEqual(["4:3", "16:9", "4:5", "1:1", "9:16"]);
    expect([shapeName("16:9"), shapeName("4:3")]).toEqual(["16:9, wide", "4:3"]);
  });
});

describe("an output in words", () => {
  const output = mainOutput(newShowDocument("Regatta"));

  it("is its size and rate, with the names that cameras give", () => {
    expect(outputText({ size: { width: 1920, height: 1080 }, frameRate: { num: 30000, den: 1001 } })).toBe(
      "1920 × 1080, 29.97 fps",
    );
  });

  it("tells only what differs from a plain film", () => {
    const plain = { ...output, container: "mp4", quality: "fine", captions: true } as const;
    expect(outputDetails({ ...plain, part: null, loops: false, watermark: null }, [])).toBe("MP4, fine");
    expect(outputDetails({ ...plain, container: "player", captions: false, loops: true }, [])).toBe(
      "Web player, fine, no captions, loops",
    );
  });

  it("says how long the film of a part is, as fast as its song is played", () => {
    const part = { songId: "s", startSeconds: 10, endSeconds: 40, barsPerSlide: null };
    const song = { ...newShowSong({ id: "s", sha256: "a".repeat(64), fileName: "regatta.flac" }), speed: 1.05 };
    expect(partLength(part, [{ ...song, speed: 1 }])).toBe("30 s");
    expect(partLength(part, [song])).toBe("28.6 s");
  });
});

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { NAMED_FRAME_RATES } from "../time/index.ts";
import {
  type DrawableImage,
  dissolveShare,
  drawFrame,
  framePicture,
  type PictureTrack,
  placeTransitions,
  planFrame,
  type Surface2D,
} from "./index.ts";

const anyRate = fc.constantFrom(...Object.values(NAMED_FRAME_RATES));
/** First frames of slots, and the end of the film, from random slot lengths. */
const anyStarts = fc
  .array(fc.integer({ min: 1, max: 400 }), { minLength: 2, maxLength: 40 })
  .map((lengths) => lengths.reduce((starts, length) => [...starts, starts.at(-1)! + length], [0]));

describe("transitions", () => {
  it("straddle their landing with half of either picture in its frame, and never show three pictures", () => {
    fc.assert(
      fc.property(anyStarts, fc.double({ min: 0.04, max: 10, noNaN: true }), anyRate, (starts, seconds, rate) => {
        const placed = placeTransitions(
          starts,
          starts.slice(1).map(() => ({ kind: "dissolve", seconds })),
          rate,
        );
        let free = 0;
        placed.forEach((transition, i) => {
          const landing = starts[i + 1]!;
          expect(transition.startFrame).toBeGreaterThanOrEqual(free);
          expect(transition.endFrame).toBeLessThanOrEqual(starts[i + 2]!);
          free = transition.endFrame;
          if (transition.kind === "cut") return;
          expect(dissolveShare(transition, landing)).toBe(0.5);
          expect(transition.endFrame - transition.startFrame).toBeLessThanOrEqual((seconds * rate.num) / rate.den);
        });
      }),
      { numRuns: 500 },
    );
  });

  it("may fill a passage of nothing but 4-second dissolves without standing time", () => {
    const placed = placeTransitions(
      [0, 100, 200, 300],
      [4, 4].map((seconds) => ({ kind: "dissolve" as const, seconds })),
      { num: 25, den: 1 },
    );
    expect(placed.map(({ startFrame, endFrame }) => [startFrame, endFrame])).toEqual([
      [51, 150],
      [151, 250],
    ]);
  });
});

describe("framing", () => {
  const side = fc.integer({ min: 20, max: 8000 });
  const size = fc.record({ width: side, height: side });
  const frames = fc.constantFrom([1920, 1080], [1080, 1920], [1080, 1080], [1080, 1350]);

  it("keeps the picture's shape, stays inside it, and crops no more than 16 % of a side", () => {
    fc.assert(
      fc.property(size, frames, (picture, [width, height]) => {
        const { source, target, covers } = framePicture(picture, { width: width, height: height });
        expect(Math.min(source.x, source.y)).toBeGreaterThanOrEqual(0);
        expect(Math.max(source.x + source.width, source.y + source.height)).toBeLessThanOrEqual(1 + 1e-9);
        expect(Math.min(source.width, source.height)).toBeGreaterThanOrEqual(0.84 - 1e-9);
        expect(covers || (source.width === 1 && source.height === 1)).toBe(true);
        const shape = (source.width * picture.width) / (source.height * picture.height);
        // Whole pixels of a narrow target leave room for a rounding of one.
        expect(Math.abs(target.width - target.height * shape)).toBeLessThanOrEqual(Math.max(1, shape) * 0.51 + 0.51);
      }),
    );
  });

  it("covers 16:9 with a 3:2 photograph and shows 4:3 and portraits whole", () => {
    const frame = { width: 1920, height: 1080 };
    expect(framePicture({ width: 3000, height: 2000 }, frame).covers).toBe(true);
    expect(framePicture({ width: 4000, height: 3000 }, frame)).toMatchObject({
      covers: false,
      target: { x: 240, width: 1440 },
    });
    expect(framePicture({ width: 2000, height: 3000 }, frame)).toMatchObject({
      covers: false,
      target: { x: 600, width: 720 },
    });
  });
});

const cut = { kind: "cut", startFrame: 0, endFrame: 0 } as const;
const track: PictureTrack = {
  size: { width: 160, height: 90 },
  fill: { kind: "colour", colour: "#102030" },
  fadeOut: { startFrame: 190, endFrame: 200 },
  slots: [
    { picture: "a", pictureSize: { width: 160, height: 90 }, startFrame: 0, endFrame: 100, transitionIn: cut },
    {
      picture: "b",
      pictureSize: { width: 45, height: 90 },
      startFrame: 100,
      endFrame: 200,
      transitionIn: { kind: "dissolve", startFrame: 95, endFrame: 106 },
    },
  ],
};

describe("planned frames", () => {
  it("show one picture between transitions and two within, the new one on top", () => {
    const seen = (frame: number) => planFrame(track, frame).layers.map(({ picture, alpha }) => [picture, alpha]);
    expect(seen(94)).toEqual([["a", 1]]);
    expect(seen(95)).toEqual([
      ["a", 1],
      ["b", 1 / 12],
    ]);
    expect(seen(100)).toEqual([
      ["a", 1],
      ["b", 0.5],
    ]);
    expect(seen(105)).toEqual([
      ["a", 1],
      ["b", 11 / 12],
    ]);
    expect(seen(106)).toEqual([["b", 1]]);
    expect(seen(5000)).toEqual([["b", 1]]);
  });

  it("sink to black over the last frames", () => {
    expect(planFrame(track, 189).darkness).toBe(0);
    expect(planFrame(track, 190).darkness).toBeCloseTo(0.1, 9);
    expect(planFrame(track, 199).darkness).toBe(1);
  });

  it("fill every pixel beside a narrow picture exactly once, so that nothing shines through", () => {
    const painted = new Uint8Array(160 * 90);
    const paint = (x: number, y: number, width: number, height: number): void => {
      for (let py = y; py < y + height; py++) for (let px = x; px < x + width; px++) painted[py * 160 + px]!++;
    };
    let base = true;
    const surface: Surface2D<string> = {
      globalAlpha: 1,
      fillStyle: "",
      imageSmoothingEnabled: false,
      imageSmoothingQuality: "low",
      fillRect(x, y, width, height) {
        if (!base) paint(x, y, width, height);
        base = false;
      },
      drawImage: (_image, _sx, _sy, _sw, _sh, x, y, width, height) => paint(x, y, width, height),
    };
    const image: DrawableImage<string> = { image: "b", width: 45, height: 90 };
    drawFrame(surface, planFrame(track, 150), (_picture, kind) => (kind === "picture" ? image : null));
    expect(new Set(painted)).toEqual(new Set([1]));
  });
});

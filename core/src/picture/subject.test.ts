import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { type ColourRaster, findSubject, subjectAt, turnSubject } from "./index.ts";

/**
 * A picture of a slowly changing ground with an ellipse of another colour on it; shares of 96 x 64
 * pixels.
 */
function blob(x: number, y: number, rx: number, ry: number, colour: readonly [number, number, number]): ColourRaster {
  const [width, height] = [96, 64];
  const pixels = new Uint8Array(3 * width * height);
  for (let py = 0; py < height; py++) {
    for (let px = 0; px < width; px++) {
      const inside = ((px / width - x) / rx) ** 2 + ((py / height - y) / ry) ** 2 < 1;
      const ground = [70 + 30 * (py / height), 90 + 20 * (py / height), 110 - 10 * (px / width)];
      for (let c = 0; c < 3; c++) pixels[3 * (py * width + px) + c] = inside ? itemAt(colour, c) : itemAt(ground, c);
    }
  }
  return { width, height, pixels };
}

const place = fc.double({ min: 0.22, max: 0.78, noNaN: true });

describe("the subject that is found", () => {
  it("is the thing of another colour, wherever it stands", () => {
    fc.assert(
      fc.property(
        place,
        place,
        fc.constantFrom<[number, number, number][]>([230, 180, 90], [220, 60, 60], [215, 160, 130]),
        (x, y, colour) => {
          const { point, region } = findSubject(blob(x, y, 0.1, 0.15, colour));
          expect(Math.abs(point.x - x)).toBeLessThan(0.06);
          expect(Math.abs(point.y - y)).toBeLessThan(0.08);
          expect(region.x).toBeLessThan(x);
          expect(region.x + region.width).toBeGreaterThan(x);
          expect(region.width).toBeLessThan(0.35);
        },
      ),
      { numRuns: 100 },
    );
  });

  it("is a kite in a blue sky, not the cloud beside it", () => {
    const [width, height] = [96, 64];
    for (const [kite, cloud] of [
      [0.25, 0.72],
      [0.7, 0.3],
    ] as const) {
      const pixels = new Uint8Array(3 * width * height);
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const [across, down] = [x / width, y / height];
          const isKite = Math.abs(across - kite) / 0.05 + Math.abs(down - 0.45) / 0.11 < 1;
          const white = Math.exp(-(((across - cloud) / 0.14) ** 2 + ((down - 0.4) / 0.12) ** 2));
          const sky = [90 + 150 * white, 140 + 105 * white, 220 + 25 * white];
          pixels.set(isKite ? [230, 60, 30] : sky, 3 * (y * width + x));
        }
      const { point } = findSubject({ width, height, pixels });
      expect(Math.abs(point.x - kite)).toBeLessThan(0.1);
      expect(Math.abs(point.y - 0.45)).toBeLessThan(0.1);
    }
  });

  it("of something tall is its upper part", () => {
    const { point } = findSubject(blob(0.5, 0.5, 0.06, 0.4, [220, 170, 140]));
    expect(point.y).toBeLessThan(0.45);
    expect(point.y).toBeGreaterThan(0.15);
  });

  it("of nothing at all is about the middle, and always inside the picture", () => {
    const flat = { width: 40, height: 60, pixels: new Uint8Array(3 * 40 * 60).fill(90) };
    expect(findSubject(flat).point.x).toBe(0.5);
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 3 * 12 * 9, maxLength: 3 * 12 * 9 }), (pixels) => {
        const { point, region } = findSubject({ width: 12, height: 9, pixels });
        for (const value of [point.x, point.y, region.x, region.y]) {
          expect(value).toBeGreaterThanOrEqual(0);
          expect(value).toBeLessThanOrEqual(1);
        }
        expect(region.x + region.width).toBeLessThanOrEqual(1 + 1e-9);
        expect(region.y + region.height).toBeLessThanOrEqual(1 + 1e-9);
        expect(Math.max(region.width, region.height)).toBeLessThanOrEqual(0.8);
      }),
    );
  });

  it("turns with the picture, as its pixels do", () => {
    const original = blob(0.3, 0.25, 0.08, 0.1, [230, 180, 90]);
    const turned = { width: original.height, height: original.width, pixels: new Uint8Array(original.pixels.length) };
    for (let y = 0; y < original.height; y++) {
      for (let x = 0; x < original.width; x++) {
        const to = x * turned.width + (original.height - 1 - y);
        turned.pixels.set(
          original.pixels.subarray(3 * (y * original.width + x), 3 * (y * original.width + x) + 3),
          3 * to,
        );
      }
    }
    const expected = turnSubject(findSubject(original), 90);
    const found = findSubject(turned);
    expect(found.point.x).toBeCloseTo(expected.point.x, 1);
    expect(found.point.y).toBeCloseTo(expected.point.y, 1);
    const twice = turnSubject(turnSubject(expected, 180), 180);
    expect(twice.point.x).toBeCloseTo(expected.point.x, 9);
    expect(turnSubject(turnSubject(expected, 90), 270).region.y).toBeCloseTo(expected.region.y, 9);
  });

  it("that a person pointed at stays inside the picture", () => {
    expect(subjectAt({ x: 0, y: 1 }).region).toEqual({ x: 0, y: 0.8, width: 0.2, height: 0.2 });
  });
});

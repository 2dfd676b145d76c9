import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { propertyRuns } from "../testing/index.ts";
import { frameLevels, type GreyFrame, motionBetween } from "./frame-motion.ts";

const SIZE = { width: 96, height: 54 };

/** A scene that is known at every place, so that a moved camera sees it without any error. */
const scene = (x: number, y: number): number =>
  128 +
  40 * Math.sin(0.31 * x + 0.11 * y) +
  30 * Math.sin(0.17 * y - 0.07 * x + 1) +
  25 * Math.cos(0.052 * x * 1.7 + 0.23 * y);

interface Camera {
  readonly x: number;
  readonly y: number;
  readonly zoom: number;
  readonly roll: number;
  readonly light: number;
}
const STILL: Camera = { x: 0, y: 0, zoom: 0, roll: 0, light: 0 };

function filmed(
  camera: Partial<Camera>,
  change: (x: number, y: number, level: number) => number = (_x, _y, level) => level,
): GreyFrame {
  const { x, y, zoom, roll, light } = { ...STILL, ...camera };
  const values = new Float32Array(SIZE.width * SIZE.height);
  for (let row = 0; row < SIZE.height; row++)
    for (let column = 0; column < SIZE.width; column++) {
      const [fromX, fromY] = [column - SIZE.width / 2, row - SIZE.height / 2];
      const level = scene(x + fromX * (1 + zoom) - roll * fromY, y + fromY * (1 + zoom) + roll * fromX);
      values[row * SIZE.width + column] = change(column, row, level + light);
    }
  return { ...SIZE, values };
}

const between = (before: GreyFrame, after: GreyFrame) => motionBetween(frameLevels(before), frameLevels(after));

describe("the camera's motion", () => {
  it("is found to a tenth of a pixel, whatever shift, zoom, roll and light", () => {
    fc.assert(
      fc.property(
        fc.record({
          x: fc.double({ min: -3, max: 3, noNaN: true }),
          y: fc.double({ min: -2, max: 2, noNaN: true }),
          zoom: fc.double({ min: -0.02, max: 0.02, noNaN: true }),
          roll: fc.double({ min: -0.02, max: 0.02, noNaN: true }),
          light: fc.double({ min: -25, max: 25, noNaN: true }),
        }),
        (camera) => {
          const { x, y, ownMovement } = between(filmed({}), filmed(camera));
          expect(Math.abs(x * SIZE.width - camera.x)).toBeLessThan(0.1);
          expect(Math.abs(y * SIZE.width - camera.y)).toBeLessThan(0.1);
          expect(ownMovement).toBeLessThan(0.3);
        },
      ),
      { numRuns: propertyRuns / 5 },
    );
  });

  it("is not led by something that moves in front of it, which is told apart", () => {
    const patch =
      (left: number) =>
      (x: number, y: number, level: number): number =>
        x >= left && x < left + 16 && y > 20 && y < 44 ? 230 - (x - left) * 4 : level;
    const still = between(filmed({}, patch(30)), filmed({ x: 1.5 }, patch(30)));
    const moving = between(filmed({}, patch(30)), filmed({ x: 1.5 }, patch(36)));
    expect(Math.abs(moving.x * SIZE.width - 1.5)).toBeLessThan(0.2);
    // What stands before a moving camera moves too, by a quarter of the six pixels.
    expect(moving.ownMovement).toBeGreaterThan(2 * still.ownMovement);
  });

  it("is nothing in a picture without any edge, and the light alone is no movement", () => {
    const flat = (level: number): GreyFrame => ({
      ...SIZE,
      values: new Float32Array(SIZE.width * SIZE.height).fill(level),
    });
    const { x, y, ownMovement } = between(flat(40), flat(90));
    expect(Math.hypot(x, y)).toBeLessThan(1e-6);
    expect(ownMovement).toBeLessThan(1e-3);
  });
});

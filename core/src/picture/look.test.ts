import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, lastOf, present } from "../presence/index.ts";
import { LOOK_KINDS, type Look } from "../show/index.ts";
import { applyLook, isAsTaken } from "./look.ts";

const pixelsOf = (colours: readonly (readonly number[])[]): Uint8ClampedArray =>
  Uint8ClampedArray.from(colours.flatMap(([red, green, blue]) => [present(red), present(green), present(blue), 255]));
const toned = (colours: readonly (readonly number[])[], look: Look): number[][] => {
  const pixels = pixelsOf(colours);
  applyLook(pixels, look);
  return colours.map((_, i) => [...pixels.subarray(4 * i, 4 * i + 3)]);
};
const colour = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255));
const full = (kind: Look["kind"], strength = 1): Look => ({ kind, strength, levels: 0 });

describe("looks", () => {
  it("leave everything as it is at no strength, and go there evenly", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...LOOK_KINDS),
        colour,
        fc.double({ min: 0, max: 1, noNaN: true }),
        (kind, one, strength) => {
          expect(isAsTaken(full(kind, 0))).toBe(true);
          expect(toned([one], full(kind, 0))).toEqual([[...one]]);
          const [whole] = toned([one], full(kind));
          // Clamped ends are not on the straight line between.
          if (present(whole).some((code) => code === 0 || code === 255)) return;
          const [part] = toned([one], full(kind, strength));
          for (const [i, code] of present(part).entries())
            expect(
              Math.abs(code - (itemAt(one, i) + strength * (itemAt(present(whole), i) - itemAt(one, i)))),
            ).toBeLessThanOrEqual(1.01);
        },
      ),
    );
  });

  it("monochrome is the luma of BT.709", () => {
    fc.assert(
      fc.property(colour, (one) => {
        const luma = 0.2126 * one[0] + 0.7152 * one[1] + 0.0722 * one[2];
        for (const code of itemAt(toned([one], full("monochrome")), 0))
          expect(Math.abs(code - luma)).toBeLessThanOrEqual(0.51);
      }),
    );
  });

  it("warm and cool move a grey towards amber and towards blue, faded lifts black and softens white", () => {
    const [[wr, , wb]] = toned([[128, 128, 128]], full("warm")) as [number[]];
    expect(present(wr)).toBeGreaterThan(present(wb) + 15);
    const [[cr, , cb]] = toned([[128, 128, 128]], full("cool")) as [number[]];
    expect(present(cb)).toBeGreaterThan(present(cr) + 15);
    const [black, white] = toned(
      [
        [0, 0, 0],
        [255, 255, 255],
      ],
      full("faded"),
    );
    expect(Math.min(...present(black))).toBeGreaterThan(20);
    expect(Math.max(...present(white))).toBeLessThan(250);
  });

  it("levels spread what is nearly black to white all the way, and what is far from it by half as much again", () => {
    const ramp = (low: number, high: number): number[][] =>
      Array.from({ length: 400 }, (_, i) => Array(3).fill(Math.round(low + ((high - low) * i) / 399)) as number[]);
    const spread = (low: number, high: number, levels: number): number[] =>
      toned(ramp(low, high), { kind: "none", strength: 0, levels }).map(([code]) => present(code));
    const near = spread(30, 220, 1);
    expect([near[0], near.at(-1)]).toEqual([expect.closeTo(0, -1), expect.closeTo(255, -1)]);
    const flat = spread(100, 140, 1);
    expect(lastOf(flat) - itemAt(flat, 0)).toBeGreaterThan(55);
    expect(lastOf(flat) - itemAt(flat, 0)).toBeLessThan(65);
    expect(spread(30, 220, 0)).toEqual(ramp(30, 220).map(([code]) => code));
    const half = spread(30, 220, 0.5);
    expect(itemAt(half, 0)).toBeGreaterThan(itemAt(near, 0));
    expect(itemAt(half, 0)).toBeLessThan(30);
  });
});

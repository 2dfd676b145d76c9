import { describe, expect, it } from "vitest";
import { gainAt, mixSound, planSound } from "./index.ts";

describe("the end of the music", () => {
  const bars = Array.from({ length: 60 }, (_, i) => 0.4 + i * 2);

  it("fades from the last bar start that leaves it time, down to nothing at the film's last sample", () => {
    const { gain, fadeOut } = planSound("song", 100, bars);
    expect(fadeOut).toEqual({ startSeconds: 98.4, endSeconds: 100 });
    expect(gainAt(gain, 98.4)).toBe(1);
    expect(gainAt(gain, 50)).toBe(1);
    expect(gainAt(gain, 100)).toBe(0);
    for (let t = 98.4; t < 100; t += 0.01) expect(gainAt(gain, t + 0.01)).toBeLessThan(gainAt(gain, t));
  });

  it("passes over a bar start that would leave less than 1.5 s", () => {
    expect(planSound("song", 99.9, bars).fadeOut.startSeconds).toBe(98.4);
    expect(planSound("song", 99.8, bars).fadeOut.startSeconds).toBe(96.4);
  });

  it("fades the last three seconds without bars, and half of a film shorter than six", () => {
    expect(planSound("song", 60, []).fadeOut.startSeconds).toBe(57);
    expect(planSound("song", 2, []).fadeOut.startSeconds).toBe(1);
  });
});

describe("mixing", () => {
  it("gives the same sound in one piece and in many, and leaves what lies before the fade untouched", () => {
    const plan = planSound("song", 4, []);
    const whole = Float32Array.from({ length: 4 * 1000 * 2 }, (_, i) => Math.sin(i));
    const original = whole.slice();
    const pieces = whole.slice();
    mixSound(plan, whole, 2, 1000, 0);
    for (let from = 0; from < 4000; from += 333) {
      mixSound(plan, pieces.subarray(from * 2, Math.min(4000, from + 333) * 2), 2, 1000, from);
    }
    expect(pieces).toEqual(whole);
    expect(whole.subarray(0, 2000)).toEqual(original.subarray(0, 2000));
    expect(Math.abs(whole.at(-1)!)).toBeLessThan(0.01);
    // A quarter of a cosine, by its own formula: at half the fade the gain is cos(45 degrees).
    expect(whole[2 * 3000]! / original[2 * 3000]!).toBeCloseTo(Math.SQRT1_2, 3);
  });
});

import { describe, expect, it } from "vitest";
import { secondsLeft } from "./seconds-left.ts";

describe("the time that a job still takes", () => {
  it("follows from the speed so far", () => {
    expect(secondsLeft(0.25, 10)).toBe(30);
    expect(secondsLeft(1, 10)).toBe(0);
    // A quarter was done before: 0.25 took 10 s, and a half is left.
    expect(secondsLeft(0.5, 10, 0.25)).toBe(20);
  });

  it("is not told too early", () => {
    expect(secondsLeft(0.01, 10)).toBeNull();
    expect(secondsLeft(0.5, 0.9)).toBeNull();
    expect(secondsLeft(0, 100)).toBeNull();
  });
});

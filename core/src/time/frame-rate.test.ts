import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  type Frames,
  frameAt,
  frameRateName,
  frameStart,
  framesToCover,
  NAMED_FRAME_RATES,
  nearestFrame,
  parseFrameRate,
} from "./index.ts";

const rates = Object.values(NAMED_FRAME_RATES);
const anyRate = fc.constantFrom(...rates);
/** Sixty minutes at the fastest rate. */
const anyFrame = fc.integer({ min: 0, max: 60 * 3600 }).map((frame): Frames => frame);

describe("frame rates", () => {
  it("keeps the 1001 rates as fractions and reads NUM/DEN as given", () => {
    expect(parseFrameRate("29.97")).toEqual({ num: 30000, den: 1001 });
    expect(parseFrameRate("23.976")).toEqual({ num: 24000, den: 1001 });
    expect(parseFrameRate("50/2")).toEqual({ num: 50, den: 2 });
    expect(frameRateName({ num: 60000, den: 2002 })).toBe("29.97");
  });

  it.each(["", "0", "25.5", "25/0", "-25", "1e3", "25fps", "100000/1"])("refuses %j and says the rule", (text) => {
    expect(() => parseFrameRate(text)).toThrow(/NUM\/DEN/);
  });

  it("gives a time half way between two frames to the later one, in whichever sum it came out a hair early", () => {
    const rate = parseFrameRate("25");
    // 312.5 frames; the last digits of a double lie on either side.
    for (const time of [12.5, 12.5 - 4e-15, 12.5 + 4e-15, 12.3 + 0.2, 13.1 - 0.6])
      expect(nearestFrame(time, rate)).toBe(313);
    expect(nearestFrame(12.4999, rate)).toBe(312);
  });

  it("puts a frame's own start into the frame, at every rate and over an hour", () => {
    fc.assert(
      fc.property(anyRate, anyFrame, (rate, frame) => {
        expect(nearestFrame(frameStart(frame, rate), rate)).toBe(frame);
        expect(frameAt(frameStart(frame, rate), rate)).toBe(frame);
        expect(framesToCover(frameStart(frame, rate), rate)).toBe(frame);
      }),
    );
  });

  it("never lands further than half a frame from a time, against whole-number arithmetic", () => {
    fc.assert(
      fc.property(anyRate, fc.integer({ min: 0, max: 3_600_000_000 }), (rate, microseconds) => {
        // The oracle: |time - frame * den / num| <= den / (2 num), multiplied out so that it is
        // exact in integers.
        const frame = BigInt(nearestFrame(microseconds / 1e6, rate));
        const distance = BigInt(microseconds) * BigInt(rate.num) - frame * BigInt(rate.den) * 1_000_000n;
        const size = distance < 0n ? -distance : distance;
        expect(2n * size <= BigInt(rate.den) * 1_000_000n + 1_000n).toBe(true);
      }),
    );
  });

  it("has 107,892 frames in an hour of 29.97 and 86,313 whole frames in an hour of 23.976", () => {
    expect(frameAt(3600, NAMED_FRAME_RATES["29.97"])).toBe(107_892);
    expect(frameAt(3600, NAMED_FRAME_RATES["23.976"])).toBe(86_313);
  });
});

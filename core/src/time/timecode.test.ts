import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { frameOfTimecode, NAMED_FRAME_RATES, timecode } from "./index.ts";

const ntsc = NAMED_FRAME_RATES["29.97"];

describe("timecode (SMPTE ST 12-1)", () => {
  it("counts ten minutes of 29.97 drop-frame as 17,982 frames", () => {
    expect(timecode(17_982, ntsc)).toBe("00:10:00;00");
    expect(frameOfTimecode("00:10:00;00", ntsc)).toBe(17_982);
  });

  it("follows 00:00:59;29 with 00:01:00;02, and keeps ;00 in minute ten", () => {
    const last = frameOfTimecode("00:00:59;29", ntsc);
    expect(last).toBe(1799);
    expect(timecode(1800, ntsc)).toBe("00:01:00;02");
    expect(timecode(17_981, ntsc)).toBe("00:09:59;29");
  });

  it("drops four labels a minute at 59.94", () => {
    expect(timecode(3600, NAMED_FRAME_RATES["59.94"])).toBe("00:01:00;04");
    expect(timecode(35_964, NAMED_FRAME_RATES["59.94"])).toBe("00:10:00;00");
  });

  it("counts on without gaps at the other rates, and in non-drop on wish", () => {
    expect(timecode(25 * 61, NAMED_FRAME_RATES["25"])).toBe("00:01:01:00");
    expect(timecode(24 * 60, NAMED_FRAME_RATES["23.976"])).toBe("00:01:00:00");
    expect(timecode(1800, ntsc, false)).toBe("00:01:00:00");
  });

  it("knows which labels do not exist", () => {
    expect(frameOfTimecode("00:01:00;00", ntsc)).toBeNull();
    expect(frameOfTimecode("00:01:00;30", ntsc)).toBeNull();
    expect(frameOfTimecode("00:00:10;00", NAMED_FRAME_RATES["25"])).toBeNull();
    expect(frameOfTimecode("nonsense", ntsc)).toBeNull();
  });

  it("labels every frame of a day once and in order, and reads its own labels back", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.values(NAMED_FRAME_RATES)),
        fc.integer({ min: 0, max: 5_000_000 }),
        (rate, frame) => {
          const label = timecode(frame, rate);
          expect(frameOfTimecode(label, rate)).toBe(frame);
          expect(timecode(frame + 1, rate) > label).toBe(true);
        },
      ),
    );
  });
});

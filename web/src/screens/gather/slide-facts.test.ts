import { describe, expect, it } from "vitest";
import { momentText, spanText, timeText } from "./slide-facts.ts";

/** Seconds of a time in UTC, as files tell the time of their camera. */
const at = (text: string): number => Date.parse(`${text}Z`) / 1000;

describe("capture times in words", () => {
  it("name the day once where a passage lies within one, and twice over midnight", () => {
    expect(spanText(at("2031-06-21T13:35:00"), at("2031-06-21T14:38:59"))).toBe("21 Jun, 13:35 to 14:38");
    expect(spanText(at("2031-06-21T22:10:00"), at("2031-06-22T01:05:00"))).toBe("21 Jun, 22:10 to 22 Jun, 01:05");
  });

  it("are the camera's, wherever the page is read", () => {
    expect(momentText(at("2031-06-21T19:04:11"))).toBe("21 Jun 2031, 19:04:11");
    expect([timeText(at("2031-06-21T00:00:00")), timeText(null)]).toEqual(["00:00", ""]);
  });
});

import { describe, expect, it } from "vitest";
import { momentText, secondsText, trimText } from "./clip-words.ts";

describe("what was found in a clip, in words", () => {
  it("tells seconds to a tenth, of a minute and more with minutes", () => {
    expect([0, 7.94, 59.94, 59.96, 67.94, 600].map(secondsText)).toEqual([
      "0.0 s",
      "7.9 s",
      "59.9 s",
      "1:00.0",
      "1:07.9",
      "10:00.0",
    ]);
  });

  it("says what happens when, and what to leave out at which end", () => {
    expect(momentText({ kind: "movement", seconds: 3.21, strength: 1 })).toBe("Most movement at 3.2 s");
    expect(momentText({ kind: "crowd", seconds: 71, strength: 1 })).toBe("A crowd is heard from 1:11.0");
    expect(trimText({ reason: "shaky", seconds: 0.9 }, "start", 10)).toBe("It shakes until 0.9 s: leave that out");
    expect(trimText({ reason: "dark", seconds: 1.5 }, "end", 10)).toBe("It is dark from 8.5 s: leave that out");
  });
});

import { describe, expect, it } from "vitest";
import { conflictText, fitMessageText, unmetWishText } from "./index.ts";

describe("what is said of a fit", () => {
  it.each([
    [{ kind: "agreement", slots: 1, endSeconds: 8, asked: null } as const, "1 slot over 0:08: 8.0 s each on average."],
    [
      { kind: "agreement", slots: 10, endSeconds: 80, asked: { slides: 10, seconds: 60 } } as const,
      "10 slots over 1:20: 8.0 s each on average. 10 pictures ask for 1:00.",
    ],
    [
      {
        kind: "left-out",
        slides: 53,
        leftOut: 5,
        endSeconds: 288,
        askedSeconds: 318,
        floorSeconds: 2,
        quietRoom: false,
      } as const,
      "53 pictures ask for 5:18, the film has 4:48: 5 pictures are left out. " +
        "Near-identical pictures go first, then those rated maybe, evenly over the show.",
    ],
    [
      {
        kind: "left-out",
        slides: 60,
        leftOut: 1,
        endSeconds: 118,
        askedSeconds: null,
        floorSeconds: 1.5,
        quietRoom: false,
      } as const,
      "Seen for 1.5 seconds or more and in time with the music, 59 pictures have room: 1 picture is left out. " +
        "Near-identical pictures go first, then those rated maybe, evenly over the show.",
    ],
    [
      {
        kind: "left-out",
        slides: 60,
        leftOut: 16,
        endSeconds: 118,
        askedSeconds: null,
        floorSeconds: 2,
        quietRoom: true,
      } as const,
      "Seen for 2 seconds or more, longer where the music is quiet, 44 pictures have room: 16 pictures are left out. " +
        "Near-identical pictures go first, then those rated maybe, evenly over the show.",
    ],
    [
      { kind: "repeated", slides: 1, repeats: 1, endSeconds: 20 } as const,
      "1 picture does not fill 0:20 at this pace: 1 slot shows a picture again. Add pictures, or choose a slower pace.",
    ],
  ])("agrees in number: %o", (message, text) => {
    expect(fitMessageText(message)).toBe(text);
  });

  it.each([
    [
      "taps",
      "Dance",
      "This music has no taps, so “Dance” is laid as best fit. Tap along on Listen, or choose another pace.",
    ],
    ["accents", "", "This music has no accents, so passage 2 is laid as best fit. Choose another pace."],
  ] as const)("says that a pace finds nothing to land on: %s", (of, name, text) => {
    expect(fitMessageText({ kind: "no-places", of, passage: 2, name })).toBe(text);
  });

  it("names locks by the place of their slide, or by their passage", () => {
    expect(
      conflictText([
        { kind: "landing", slide: 3 },
        { kind: "passage", passage: 2, name: "" },
        { kind: "length", slide: 5 },
      ]),
    ).toMatch(/^The landing of slide 3, the start of passage 2 and the length of slide 5 cannot hold together/);
    expect(conflictText([{ kind: "passage", passage: 2, name: "Dance" }])).toMatch(
      /^The start of “Dance” cannot be kept/,
    );
  });

  it("says what was wished, and what it has instead", () => {
    expect(unmetWishText({ kind: "length", slot: 3, cost: 1, slide: 4, wishedSeconds: 9, seconds: 6 })).toBe(
      "Slide 4 wishes 9.0 s and has 6.0 s.",
    );
  });
});

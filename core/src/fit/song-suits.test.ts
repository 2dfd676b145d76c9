import { describe, expect, it } from "vitest";
import { newShowDocument } from "../show/index.ts";
import { fitMusic, fitRequest, fitSlidesList } from "../testing/index.ts";
import { fitSlides } from "./fit-slides.ts";
import { roomForSlides, slidesTooMany } from "./song-suits.ts";

/** 120 bars of two seconds. */
const song = { durationSeconds: 240, tempoBpm: 120 };

describe("whether a song suits a number of slides", () => {
  it("counts the places of a fixed pace", () => {
    expect(roomForSlides(song, { kind: "bars", count: 1 })).toEqual({ fewest: 120, most: 120 });
    expect(slidesTooMany(song, { kind: "bars", count: 1 }, 125)).toBe(5);
    expect(slidesTooMany(song, { kind: "beats", count: 8 }, 53)).toBe(-7);
    expect(slidesTooMany(song, { kind: "beats", count: 8 }, 60)).toBe(0);
  });

  it("takes any number that neither rushes nor drags where the pace is free, or the song has no beat", () => {
    expect(roomForSlides(song, newShowDocument("Regatta").pace)).toEqual({ fewest: 24, most: 120 });
    expect(slidesTooMany({ durationSeconds: 50, tempoBpm: null }, { kind: "bars", count: 1 }, 60)).toBe(35);
  });

  it("agrees with the fit itself within two slides", () => {
    for (const [bpm, pace] of [
      [120, { kind: "bars", count: 1 }],
      [96, { kind: "beats", count: 3 }],
      [138, { kind: "beats", count: 8 }],
    ] as const) {
      const seconds = 180;
      const gap = 60 / bpm;
      const { slots } = fitSlides(
        fitRequest({
          slides: fitSlidesList(300),
          music: fitMusic(Math.floor(seconds / gap) - 1, gap, gap),
          endSeconds: seconds,
          pace,
        }),
      );
      const { most } = roomForSlides({ durationSeconds: seconds, tempoBpm: bpm }, pace);
      expect(Math.abs(slots.length - most)).toBeLessThanOrEqual(2);
    }
  });
});

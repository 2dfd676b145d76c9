import { describe, expect, it } from "vitest";
import { itemAt, lastOf, present } from "../presence/index.ts";
import {
  fitMusic as music,
  fitPassage as passage,
  fitRequest as request,
  fitSlidesList as slides,
} from "../testing/index.ts";
import { type FitRequest, fitSlides, unmetWishes } from "./index.ts";
import { landingsOf } from "./landings.ts";
import { paceWish } from "./pace.ts";

/** What docs/fit.md says of costs and bounds, worked out by hand. */

const lengths = (asked: FitRequest): number[] => {
  const { slots, endSeconds } = fitSlides(asked);
  const at = [...slots.map(({ landing }) => landing?.seconds ?? 0), endSeconds];
  return at.slice(1).map((seconds, i) => seconds - itemAt(at, i));
};

describe("costs", () => {
  it("of a hero's landing are twice those of others", () => {
    // The only place besides is a beat in the middle of a bar, of strength 0.4.
    const beats = [{ seconds: 5, position: 3 }];
    const asked = request({ slides: slides(2, { 1: { hero: true } }), music: { ...music(0), beats }, endSeconds: 10 });
    const placed = { ...asked, music: { ...asked.music, beats: [{ seconds: 4.9, position: 2 }, ...beats] } };
    const landing = unmetWishes(placed, fitSlides(placed)).find(({ kind }) => kind === "landing");
    expect(landing?.cost).toBeCloseTo(2 * (1 - 0.4), 9);
  });

  it("of a film where slides lead are 40 for each slide times the square of its logarithm off, and those of its end", () => {
    const pace = { kind: "seconds", seconds: 4 } as const;
    const asked = request({
      slides: slides(1),
      music: music(0),
      passages: [passage(pace)],
      ends: [{ seconds: 5, cost: 0.7 }],
      slidesLead: true,
    });
    const off = Math.log(5 / 4) ** 2;
    expect(fitSlides(asked).cost).toBeCloseTo(0.7 + 40 * off + 4 * off, 9);
  });

  it("keep others away from a place that a person chose by hand", () => {
    // Slide 2 would begin just there; slide 3 is put there.
    const list = slides(4, { 2: { landingLockSeconds: 6.1, landingLockExact: true } });
    const asked = request({
      slides: list,
      music: music(0),
      passages: [passage({ kind: "seconds", seconds: 6.1 })],
      endSeconds: 24,
    });
    const { slots } = fitSlides(asked);
    expect(present(itemAt(slots, 2).landing).seconds).toBe(6.1);
    expect(slots.filter(({ landing }) => landing?.kind === "free")).toHaveLength(1);
  });

  it("of a moment count only for accents of half the strongest and more", () => {
    const clip = { materialSeconds: 6, moment: { beforeSeconds: 3, afterSeconds: 3 } };
    const found = (strength: number) => {
      const asked = request({
        slides: slides(3, { 1: clip }),
        music: music(30, 0.5, 0.2, { accents: [{ seconds: 7.7, strength }] }),
        endSeconds: 15,
      });
      return unmetWishes(asked, fitSlides(asked)).every(({ kind }) => kind !== "moment");
    };
    expect([0.45, 0.55].map(found)).toEqual([false, true]);
  });
});

describe("the bounds of a counted pace", () => {
  const bounds = (count: number, beatSeconds: number): number[] => {
    const song = music(60, beatSeconds);
    const offer = { music: song, landings: landingsOf(song, 60 * beatSeconds), endSeconds: 60 * beatSeconds };
    const { minimumSeconds, maximumSeconds } = paceWish({ kind: "beats", count }, offer, 3);
    return [minimumSeconds, maximumSeconds];
  };

  it("are six tenths of it and twice, but what is seen at all, and two to ten seconds for a slow one", () => {
    const near = (numbers: readonly number[]) => numbers.map((number) => expect.closeTo(number, 9) as number);
    expect(bounds(1, 0.5)).toEqual(near([0.6 * 0.5, 10]));
    expect(bounds(1, 0.25)).toEqual(near([0.2, 10]));
    expect(bounds(8, 0.5)).toEqual(near([2, 10]));
    expect(bounds(16, 0.5)).toEqual(near([2, 2 * 8]));
  });
});

describe("the strength of a place", () => {
  it("is that of the table", () => {
    // A beat silent from 24.2 to 40.2, two bars; accents on a beat and off it; a marker on nothing.
    const beats = music(120).beats.filter(({ seconds }) => seconds < 24.5 || seconds > 40);
    const marker = { seconds: 3.05, name: "", kind: "cut" as const, origin: "placed" as const };
    const landings = landingsOf(
      music(0, 0.5, 0.2, {
        beats,
        phrases: [8.2],
        sections: [{ startSeconds: 16.2, label: "B" }],
        accents: [
          { seconds: 4.7, strength: 1 },
          { seconds: 5.45, strength: 0.8 },
        ],
        markers: [marker],
      }),
      60,
    );
    const at = (seconds: number) => present(landings.find((landing) => Math.abs(landing.seconds - seconds) < 1e-6));
    const table: readonly (readonly [seconds: number, kind: string, strength: number])[] = [
      [1.2, "beat", 0.4],
      [2.2, "bar", 0.75],
      [8.2, "phrase", 0.9],
      [16.2, "section", 1],
      [3.05, "marker", 1],
      [4.7, "beat", 0.4 + 0.15],
      [5.45, "accent", 0.5 * 0.8],
      [30.2, "even", 0.3],
    ];
    for (const [seconds, kind, strength] of table)
      expect([seconds, at(seconds).kind, at(seconds).strength]).toEqual([seconds, kind, expect.closeTo(strength, 9)]);
    expect(landingsOf(music(0), 10)).toMatchObject(Array.from({ length: 19 }, () => ({ kind: "even", strength: 1 })));
    const near = (apart: number) =>
      landingsOf(music(9, 1, 1, { markers: [{ ...marker, seconds: 4 + apart }] }), 10).length;
    expect([near(0.029), near(0.031)]).toEqual([9, 10]);
  });
});

describe("heroes", () => {
  it("wish half as much again in best fit, and twice as much where beats are counted", () => {
    const wishes = (pace: FitRequest["passages"][number]["pace"]) => {
      const { slots } = fitSlides(request({ slides: slides(12, { 5: { hero: true } }), pace }));
      return itemAt(slots, 5).wishedSeconds / itemAt(slots, 4).wishedSeconds;
    };
    expect(wishes({ kind: "auto" })).toBeCloseTo(1.5, 9);
    expect(wishes({ kind: "beats", count: 8 })).toBeCloseTo(2, 9);
  });

  it("stand longer than others where pictures are left out, too", () => {
    const heroes = Object.fromEntries([5, 14, 23, 31, 44].map((i) => [i, { hero: true }]));
    const { slots, leftOut } = fitSlides(request({ slides: slides(50, heroes), music: music(120), endSeconds: 60 }));
    expect(leftOut.length).toBeGreaterThan(15);
    const at = [...slots.map(({ landing }) => landing?.seconds ?? 0), 60];
    const mean = (isHero: boolean): number => {
      const own = slots.flatMap(({ slideIndex }, k) =>
        slideIndex in heroes === isHero ? [itemAt(at, k + 1) - itemAt(at, k)] : [],
      );
      return own.reduce((sum, seconds) => sum + seconds, 0) / own.length;
    };
    expect(mean(true) / mean(false)).toBeGreaterThanOrEqual(1.5);
  });
});

describe("room for quiet music", () => {
  const sections = [0.2, 25.2].map((startSeconds, i) => ({ startSeconds, label: itemAt("AB", i) }));
  const shown = (count: number, quiet: number) =>
    fitSlides(
      request({
        slides: slides(count),
        music: music(100, 0.5, 0.2, { sections, loudnessAt: (at) => (at < 25.2 ? quiet : 1) }),
        endSeconds: 50,
      }),
    );

  it("is twice the length there once pictures are left out, a picture for each that has no room until then", () => {
    // 25 have room at two seconds, with half a slot of slack.
    expect([25, 26, 60].map((count) => shown(count, 1).slots.length)).toEqual([25, 25, 25]);
    // Half of the music is quiet: a picture has 4/3 of two seconds on average.
    const [full, over, far] = [25, 26, 60].map((count) => shown(count, -1).slots.length);
    expect(full).toBe(25);
    expect(over).toBe(24);
    // One less, where that is cheaper.
    expect([18, 19]).toContain(far);
    expect(shown(25, -1).quietRoom).toBe(false);
    expect(shown(60, -1).quietRoom).toBe(true);
  });

  it("is not asked for where the quietest is less than 1.6 times as long as the loudest", () => {
    // 1.8 ** 0.79 is 1.59, 1.8 ** 0.81 is 1.61.
    expect(shown(60, 1 - 0.79).quietRoom).toBe(false);
    expect(shown(60, 1 - 0.81).quietRoom).toBe(true);
  });
});

describe("bounds", () => {
  it("of a single picture are a second and a half, and a second where it is fast", () => {
    for (const [fast, least, beat] of [
      [false, 1.5, 0.35],
      [true, 1, 0.225],
    ] as const) {
      // A bar of four beats is a little too short.
      const asked = request({
        slides: slides(60),
        music: music(200, beat),
        endSeconds: 40,
        pace: { kind: "auto", fast },
      });
      expect(Math.min(...lengths(asked))).toBeGreaterThan(least - 0.0125);
    }
    const bars = request({ slides: slides(26), music: music(107, 0.375), endSeconds: 40 });
    expect(Math.min(...lengths(bars))).toBeLessThan(1.51);
  });

  it("between locks are a second for each picture", () => {
    const between = (seconds: number) =>
      fitSlides(
        request({
          slides: slides(8, { 3: { landingLockSeconds: 20.2 }, 5: { landingLockSeconds: 20.2 + seconds } }),
          endSeconds: 50,
        }),
      ).conflict.length;
    expect([between(2), between(1.5)]).toEqual([0, 2]);
  });

  it("of energy are 1.8 times as long in the quietest section and as short in the loudest, where they differ by half", () => {
    const sections = [0.2, 24.2].map((startSeconds, i) => ({ startSeconds, label: itemAt("AB", i) }));
    const wishes = (quiet: number, loud: number) => {
      const asked = request({
        music: music(100, 0.5, 0.2, { sections, loudnessAt: (at) => (at < 24.2 ? quiet : loud) }),
        endSeconds: 50,
      });
      const { slots } = fitSlides(asked);
      return present(slots.at(1)).wishedSeconds / lastOf(slots).wishedSeconds;
    };
    expect(wishes(-1, 1)).toBeCloseTo(1.8 ** 2, 1);
    expect(wishes(-0.3, 0.3)).toBeCloseTo(1.8 ** 0.6, 1);
    expect(wishes(-0.2, 0.2)).toBeCloseTo(1, 9);
  });

  it("of a pace that follows the music are 1.6 times as long and as short, from moment to moment", () => {
    const song = music(100, 0.5, 0.2, { loudnessAt: (at) => (at < 24.2 ? -1 : 1) });
    const offer = { music: song, landings: landingsOf(song, 50), endSeconds: 50 };
    const { logWish } = paceWish({ kind: "music" }, offer, 3);
    expect(Math.exp(itemAt([...logWish], 1))).toBeCloseTo(3 * 1.6, 9);
    expect(Math.exp(lastOf([...logWish]))).toBeCloseTo(3 / 1.6, 9);
  });

  it("between taps are six tenths of the shortest gap, of a second at most, and what is seen at all at least", () => {
    const least = (gap: number): number => {
      const markers = Array.from({ length: 9 }, (_, i) => ({
        seconds: 1 + i * gap,
        name: "",
        kind: "cut" as const,
        origin: "tapped" as const,
      }));
      const song = music(100, 0.5, 0.2, { markers });
      const offer = { music: song, landings: landingsOf(song, 50), endSeconds: 50 };
      return paceWish({ kind: "markers", origin: "tapped" }, offer, 3).minimumSeconds;
    };
    expect(least(3)).toBeCloseTo(0.6, 9);
    expect(least(0.6)).toBeCloseTo(0.36, 9);
    expect(least(0.3)).toBeCloseTo(0.2, 9);
  });
});

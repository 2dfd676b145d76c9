import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present } from "../presence/index.ts";
import {
  blurEffect,
  commonSeconds,
  fingerprint,
  haveBetterLikes,
  likeness,
  pictureShape,
  proposePassages,
  similarMoments,
  slopesOf,
} from "./index.ts";

describe("capture time", () => {
  it("is seconds on one clock, after what a camera's clock is off by", () => {
    const at = (capturedAt: string | null, camera: string) => commonSeconds({ capturedAt, camera }, { Lantern: -3600 });
    expect(present(at("2031-06-21T19:04:11", "Quay")) - present(at("2031-06-21T19:00:00", "Quay"))).toBe(251);
    expect(at("2031-06-21T19:00:00", "Lantern")).toBe(at("2031-06-21T18:00:00", "Quay"));
    expect(present(at("2031-06-21T19:00:00.250", "")) - present(at("2031-06-21T19:00:00", ""))).toBeCloseTo(0.25, 9);
    expect(at(null, "Quay")).toBeNull();
    expect(at("2031-02-41T19:00:00", "Quay")).toBeNull();
  });
});

describe("the better of near-identical pictures", () => {
  const print = (seed: number) =>
    fingerprint({ width: 16, height: 16, pixels: Uint8Array.from({ length: 256 }, (_, i) => (i * seed * 37) % 251) });
  const [quay, boat] = [print(3), print(11)];
  const pictures = [
    { fingerprint: quay, blur: 0.4, headBlur: null, openEyes: null, seconds: 0 },
    { fingerprint: quay, blur: 0.2, headBlur: null, openEyes: null, seconds: 2 },
    { fingerprint: boat, blur: 0.9, headBlur: null, openEyes: null, seconds: 3 },
    { fingerprint: quay, blur: 0.2, headBlur: null, openEyes: null, seconds: 4 },
    { fingerprint: null, blur: null, headBlur: null, openEyes: null, seconds: 5 },
  ];

  it("is the sharpest, of equal ones the first; others have none", () => {
    expect(haveBetterLikes(pictures)).toEqual([true, false, false, true, false]);
  });

  it("is the one with the sharper faces, however sharp the background is, and one of any set", () => {
    const likes = (...pairs: readonly (readonly [headBlur: number | null, blur: number | null])[]): boolean[] =>
      haveBetterLikes(
        pairs.map(([headBlur, blur], i) => ({ fingerprint: quay, blur, headBlur, openEyes: null, seconds: i })),
      );
    expect(likes([0.5, 0.1], [0.3, 0.4])).toEqual([true, false]);
    // Faces that differ less than can be seen leave it to the rest; one that is turned away loses.
    expect(likes([0.3, 0.4], [0.305, 0.2])).toEqual([true, false]);
    expect(likes([null, 0.1], [0.6, 0.5])).toEqual([true, false]);
    const any = fc.option(fc.double({ min: 0, max: 1, noNaN: true }));
    fc.assert(
      fc.property(fc.array(fc.tuple(any, any), { minLength: 1, maxLength: 8 }), (set) => {
        expect(likes(...set).filter((hasBetter) => !hasBetter)).toHaveLength(1);
      }),
    );
  });

  it("is the one with more open eyes, before the sharper faces; eyes that nobody told count as open", () => {
    const likes = (...pairs: readonly (readonly [openEyes: number | null, headBlur: number])[]): boolean[] =>
      haveBetterLikes(
        pairs.map(([openEyes, headBlur], i) => ({ fingerprint: quay, blur: 0.2, headBlur, openEyes, seconds: i })),
      );
    expect(likes([0, 0.1], [1, 0.5])).toEqual([true, false]);
    expect(likes([0.9, 0.2], [0.8, 0.1])).toEqual([false, true]);
    expect(likes([1, 0.5], [null, 0.2])).toEqual([true, false]);
  });

  it("leaves just one of every set without a better one, whatever the order", () => {
    const burst = fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(burst, (blurs) => {
        const set = blurs.map((blur, i) => ({ fingerprint: quay, blur, headBlur: null, openEyes: null, seconds: i }));
        const best = haveBetterLikes(set).flatMap((has, i) => (has ? [] : [i]));
        expect(best).toEqual([blurs.indexOf(Math.min(...blurs))]);
      }),
    );
  });
});

describe("the shape of a picture", () => {
  it.each([
    [1620, 1080, "landscape"],
    [1080, 1620, "portrait"],
    [1000, 1000, "square"],
    [1040, 1000, "square"],
    [1000, 1060, "portrait"],
    [2400, 1200, "panorama"],
    [1200, 2400, "portrait"],
  ])("%d x %d is %s", (width, height, shape) => expect(pictureShape({ width, height })).toBe(shape));
});

describe("proposed passages", () => {
  const slides = (times: readonly (number | null)[]) => times.map((seconds, i) => ({ id: `${i}`, seconds }));
  const starts = (times: readonly (number | null)[], sensitivity?: "few" | "many") =>
    proposePassages(slides(times), sensitivity).map(({ slideId }) => Number(slideId));

  it("begin at gaps much longer than those around them", () => {
    // A minute between pictures, an hour between chapters.
    const chapter = (from: number) => Array.from({ length: 8 }, (_, i) => from + i * 60);
    expect(starts([...chapter(0), ...chapter(4000), ...chapter(9000)])).toEqual([0, 8, 16]);
  });

  it("are none where pictures come evenly, however far apart, and never part a burst", () => {
    expect(starts(Array.from({ length: 30 }, (_, i) => i * 900))).toEqual([0]);
    expect(starts([0, 1, 2, 3, 60, 61, 62, 63])).toEqual([0]);
  });

  it("pass over slides without a time, and take a jump back as a beginning", () => {
    const jump = [0, 60, null, 180, 5000, null, 5060];
    expect(starts(jump)).toEqual([0, 4]);
    expect(starts([5000, 5060, 5100, 0, 60])).toEqual([0, 3]);
    expect(starts([null, null])).toEqual([0]);
    expect(proposePassages([])).toEqual([]);
  });

  it("say how many slides and how long a gap, and are more for a finer sense", () => {
    const times = [0, 60, 120, 180, 1500, 1560, 1620, 30_000, 30_060, 30_120];
    const usual = proposePassages(slides(times));
    expect(usual.reduce((sum, { count }) => sum + count, 0)).toBe(times.length);
    expect(usual.at(-1)).toMatchObject({ slideId: "7", gapSeconds: 28_380, count: 3 });
    expect(starts(times, "few").length).toBeLessThanOrEqual(usual.length);
    expect(starts(times, "many").length).toBeGreaterThanOrEqual(usual.length);
  });
});

/** A picture of soft shapes and hard edges, seeded. */
function scene(seed: number, width = 512, height = 384): number[] {
  return Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    const edge = (Math.floor(x / (23 + seed)) + Math.floor(y / 31)) % 2 ? 60 : 0;
    return Math.round(95 + edge + 60 * Math.sin((x + seed * 17) / 37) * Math.cos(y / (29 + seed)));
  });
}

function blurred(pixels: readonly number[], width: number, radius: number): number[] {
  const height = pixels.length / width;
  return pixels.map((_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    let sum = 0;
    let count = 0;
    for (let dy = -radius; dy <= radius; dy++) {
      for (let dx = -radius; dx <= radius; dx++) {
        if (x + dx < 0 || x + dx >= width || y + dy < 0 || y + dy >= height) continue;
        sum += itemAt(pixels, (y + dy) * width + x + dx);
        count++;
      }
    }
    return sum / count;
  });
}

describe("blur", () => {
  const [width, height] = [256, 192];
  const sharp = scene(3, width, height);
  const measure = (pixels: readonly number[]) => blurEffect({ width, height, pixels });

  it("rises with every wider blur, and an even surface is wholly soft", () => {
    const measured = [0, 1, 3, 6].map((radius) => measure(radius === 0 ? sharp : blurred(sharp, width, radius)));
    expect(measured).toEqual([...measured].sort((a, b) => a - b));
    expect(measured[0]).toBeLessThan(0.35);
    expect(measured.at(-1)).toBeGreaterThan(0.6);
    expect(measure(sharp.map(() => 90))).toBe(1);
  });

  it("is judged by the sharpest part: a soft background does not count", () => {
    const soft = blurred(sharp, width, 6);
    const face = soft.map((value, i) => (i % width < 64 && i < 48 * width ? itemAt(sharp, i) : value));
    expect(measure(face)).toBeLessThan(0.4);
  });
});

describe("likeness", () => {
  const print = (grey: (x: number, y: number) => number): string =>
    fingerprint({
      width: 16,
      height: 16,
      pixels: Array.from({ length: 256 }, (_, i) => Math.max(0, Math.min(255, grey(i % 16, Math.floor(i / 16))))),
    });
  const boats = (shift: number) => print((x, y) => 120 + 60 * Math.sin((x + shift) / 2) + 40 * Math.cos(y / 3));

  it("is 1 for the same picture in other light, about 0 for unrelated ones, and -1 for the opposite", () => {
    const grey = (x: number, y: number): number => 90 + 5 * x + 3 * y + ((x * 7 + y * 3) % 5);
    const slopes = slopesOf(print(grey));
    expect(likeness(slopes, slopes)).toBeCloseTo(1, 5);
    expect(likeness(slopes, slopesOf(print((x, y) => grey(x, y) + 40)))).toBeCloseTo(1, 5);
    expect(likeness(slopes, slopesOf(print((x, y) => 255 - grey(x, y))))).toBeCloseTo(-1, 5);
    expect(likeness(slopesOf(print((x) => 10 * x)), slopesOf(print((_, y) => 10 * y)))).toBeCloseTo(0, 5);
    expect(likeness(slopes, slopesOf(print(() => 77)))).toBe(0);
  });

  it("is the cosine between the slopes, as a plain computation gives it", () => {
    const greys = fc.array(fc.integer({ min: 0, max: 255 }), { minLength: 256, maxLength: 256 });
    const plain = (pixels: readonly number[]): number[] =>
      pixels.flatMap((value, i) => [
        ...(i % 16 < 15 ? [itemAt(pixels, i + 1) - value] : []),
        ...(i < 240 ? [itemAt(pixels, i + 16) - value] : []),
      ]);
    const dot = (a: readonly number[], b: readonly number[]): number =>
      a.reduce((sum, value, i) => sum + value * itemAt(b, i), 0);
    fc.assert(
      fc.property(greys, greys, (a, b) => {
        const [first, second] = [plain(a), plain(b)];
        const cosine = dot(first, second) / Math.sqrt(dot(first, first) * dot(second, second));
        const slopes = [a, b].map((pixels) => slopesOf(fingerprint({ width: 16, height: 16, pixels })));
        expect(likeness(itemAt(slopes, 0), itemAt(slopes, 1))).toBeCloseTo(cosine, 4);
      }),
      { numRuns: 60 },
    );
  });

  it("groups pictures of one moment, joined by chains, and copies at any time; never unlike ones", () => {
    const groups = similarMoments([
      { id: "a", fingerprint: boats(0), seconds: 0 },
      { id: "b", fingerprint: boats(0.8), seconds: 5 },
      { id: "c", fingerprint: boats(1.6), seconds: 10 },
      { id: "later", fingerprint: boats(5), seconds: 900 },
      { id: "other", fingerprint: print((x, y) => 20 * ((x * y) % 9)), seconds: 6 },
      { id: "unknown", fingerprint: null, seconds: 7 },
      { id: "copy", fingerprint: boats(0.02), seconds: null },
    ]);
    expect(groups).toEqual([["a", "b", "c", "copy"]]);
  });
});

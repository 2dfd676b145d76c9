import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present } from "../presence/index.ts";
import { FlashWatch, flashSize } from "./flash-watch.ts";

type Colour = readonly [red: number, green: number, blue: number];
const BLACK: Colour = [0, 0, 0];
const WHITE: Colour = [255, 255, 255];
const grey = (code: number): Colour => [code, code, code];
/**
 * A whole 16:9 film on the screen of the rule, and a quarter of a block of it: 341 x 256 / 16
 * pixels.
 */
const SIZE = flashSize({ width: 1920, height: 1080 });
const QUARTER_BLOCK = (341 * 256) / 16 / 4;

interface Region {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
const WHOLE: Region = { x: 0, y: 0, ...SIZE };

function frameWith(colour: Colour, regions: readonly Region[] = [WHOLE], around: Colour = BLACK): Uint8Array {
  const pixels = new Uint32Array(SIZE.width * SIZE.height).fill(packed(around));
  for (const { x, y, width, height } of regions)
    for (let row = y; row < y + height; row++)
      pixels.fill(packed(colour), row * SIZE.width + x, row * SIZE.width + x + width);
  return new Uint8Array(pixels.buffer);
}

/** An opaque colour as one number, whatever the order of bytes on this machine. */
const packed = (colour: Colour): number => itemAt(new Uint32Array(Uint8Array.of(...colour, 255).buffer), 0);

/** Watches colours that fill the regions, one a frame. */
function watched(colours: readonly Colour[], fps = 25, regions: readonly Region[] = [WHOLE]): FlashWatch {
  const watch = new FlashWatch(SIZE, fps);
  for (const colour of colours) watch.see(frameWith(colour, regions));
  return watch;
}

/** Two colours in turn, each so many frames, with so many changes between them. */
const turns = (a: Colour, b: Colour, framesEach: number, changes: number): Colour[] =>
  Array.from({ length: changes + 1 }, (_, i) => Array.from({ length: framesEach }, () => (i % 2 === 0 ? a : b))).flat();

/** By the formulas of the standard, apart from the code under test. */
const luminance = ([red, green, blue]: Colour): number => {
  const [r, g, b] = [red, green, blue].map((code) => {
    const value = code / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};

describe("more than three flashes in a second", () => {
  it.each([24, 25, 30, 50, 60])("are four pairs of changes within less than a second, at %s frames a second", (fps) => {
    // Eight changes, the last so many frames behind the first.
    const changesWithin = (span: number): Colour[] => {
      const at = Array.from({ length: 8 }, (_, i) => 1 + Math.round((i * span) / 7));
      return Array.from({ length: fps + 10 }, (_, frame) =>
        at.filter((change) => change <= frame).length % 2 === 0 ? BLACK : WHITE,
      );
    };
    expect(watched(changesWithin(fps - 1), fps).found).toMatchObject([
      { kind: "general", startFrame: 1, endFrame: fps + 1 },
    ]);
    expect(watched(changesWithin(fps), fps).found).toEqual([]);
  });

  it("are told from three, however quick", () => {
    expect(watched(turns(BLACK, WHITE, 1, 6)).found).toEqual([]);
    expect(watched(turns(BLACK, WHITE, 1, 7)).found).toEqual([]);
    expect(watched(turns(BLACK, WHITE, 1, 8)).found).toHaveLength(1);
  });

  it("count from a tenth of the maximum luminance on, where the darker state is below 0.80", () => {
    // The nearest codes on both sides of either limit.
    const low = grey(100);
    const codes = Array.from({ length: 256 }, (_, code) => code);
    const enough = present(codes.find((code) => luminance(grey(code)) - luminance(low) >= 0.1));
    expect(watched(turns(low, grey(enough), 2, 8)).found).toHaveLength(1);
    expect(watched(turns(low, grey(enough - 1), 2, 8)).found).toEqual([]);
    const bright = present(codes.find((code) => luminance(grey(code)) >= 0.8));
    expect(luminance(WHITE) - luminance(grey(bright))).toBeGreaterThan(0.1);
    expect(watched(turns(grey(bright), WHITE, 2, 8)).found).toEqual([]);
    expect(watched(turns(grey(bright - 1), WHITE, 2, 8)).found).toHaveLength(1);
  });

  it("count whether they come at once or in steps, and not where the light only grows", () => {
    const steps = [0, 90, 160, 255, 160, 90].map(grey);
    expect(watched(Array.from({ length: 8 }, () => steps).flat(), 60).found).toHaveLength(1);
    expect(
      watched(
        Array.from({ length: 60 }, (_, i) => grey(4 * i)),
        60,
      ).found,
    ).toEqual([]);
  });

  it("count over more than a quarter of a block, in one piece or in several", () => {
    const width = 40;
    const height = Math.floor(QUARTER_BLOCK / width);
    const flicker = turns(BLACK, WHITE, 1, 8);
    const at = (x: number, y: number, rows: number): Region => ({ x, y, width, height: rows });
    expect(width * height).toBeLessThanOrEqual(QUARTER_BLOCK);
    expect(watched(flicker, 25, [at(3, 5, height)]).found).toEqual([]);
    const [found] = watched(flicker, 25, [at(3, 5, height + 1)]).found;
    expect(present(found).share).toBeCloseTo((0.25 * width * (height + 1)) / QUARTER_BLOCK, 6);
    // Two halves side by side in a block, and the same in two corners of the film.
    const half = Math.ceil((height + 2) / 2);
    expect(watched(flicker, 25, [at(0, 0, half), at(43, 10, half)]).found).toHaveLength(1);
    expect(watched(flicker, 25, [at(0, 0, half), at(SIZE.width - width, 100, half)]).found).toEqual([]);
  });

  it("count in saturated red, where the light stays the same", () => {
    const red: Colour = [255, 0, 0];
    const asLight = Array.from({ length: 256 }, (_, code) => code).reduce((best, code) =>
      Math.abs(luminance(grey(code)) - luminance(red)) < Math.abs(luminance(grey(best)) - luminance(red)) ? code : best,
    );
    expect(watched(turns(grey(asLight), red, 2, 8)).found).toMatchObject([{ kind: "red" }]);
    expect(watched(turns(grey(asLight), red, 2, 7)).found).toEqual([]);
    // R / (R + G + B) in linear light: a little more and a little less than 0.8.
    const share = ([r, g, b]: Colour): number => {
      const [lr, lg, lb] = [r, g, b].map((code) => luminance(grey(code))) as [number, number, number];
      return lr / (lr + lg + lb);
    };
    const [over, under] = [
      [255, 98, 98],
      [255, 104, 104],
    ] as const;
    expect(share(over)).toBeGreaterThan(0.8);
    expect(share(under)).toBeLessThan(0.8);
    const calm = (colour: Colour): Colour => {
      const code = Array.from({ length: 256 }, (_, i) => i).reduce((best, i) =>
        Math.abs(luminance(grey(i)) - luminance(colour)) < Math.abs(luminance(grey(best)) - luminance(colour))
          ? i
          : best,
      );
      return [0, code, code];
    };
    expect(watched(turns(calm(over), over, 2, 8)).found.map(({ kind }) => kind)).toContain("red");
    expect(watched(turns(calm(under), under, 2, 8)).found.map(({ kind }) => kind)).not.toContain("red");
    // Hardly any light: nobody sees that it is red.
    expect(watched(turns(BLACK, [20, 0, 0], 2, 8)).found).toEqual([]);
  });

  it("are the same whether frames that stand are seen again or only counted", () => {
    const colours = turns(BLACK, WHITE, 3, 9);
    const counted = new FlashWatch(SIZE, 25);
    for (let i = 0; i < colours.length; i += 3) {
      counted.see(frameWith(itemAt(colours, i)));
      counted.repeat(2);
    }
    expect(counted.found).toEqual(watched(colours).found);
    expect(counted.found).toHaveLength(1);
  });

  it("are found only where a second holds eight opposing changes (brute force), and always where those are jumps", () => {
    const tiny = { width: 85, height: 64 };
    const found = (codes: readonly number[], fps: number): boolean => {
      const watch = new FlashWatch(tiny, fps);
      for (const code of codes) watch.see(new Uint8Array(4 * tiny.width * tiny.height).fill(code));
      return watch.found.length > 0;
    };
    const fps = fc.integer({ min: 8, max: 14 });
    fc.assert(
      fc.property(fc.array(fc.nat(255), { minLength: 2, maxLength: 26 }), fps, (codes, rate) => {
        if (found(codes, rate))
          expect(
            hasEightChanges(
              codes.map((code) => luminance(grey(code))),
              rate,
            ),
          ).toBe(true);
      }),
      { numRuns: 40 },
    );
    fc.assert(
      fc.property(fc.array(fc.boolean(), { minLength: 9, maxLength: 30 }), fps, (lights, rate) => {
        const jumps = lights.flatMap((on, frame) => (frame > 0 && on !== lights[frame - 1] ? [frame] : []));
        expect(
          found(
            lights.map((on) => (on ? 200 : 30)),
            rate,
          ),
        ).toBe(jumps.some((frame, i) => i >= 7 && frame - itemAt(jumps, i - 7) < rate));
      }),
      { numRuns: 40 },
    );
  });
});

/**
 * Whether any second holds eight changes by enough, up and down in turn, the first of which may
 * have begun before: the longest chain of states in each, by dynamic programming.
 */
function hasEightChanges(light: readonly number[], fps: number): boolean {
  for (let from = 0; from < light.length; from++) {
    const longest = new Map<string, number>();
    const chainTo = (frame: number, direction: 1 | -1): number => {
      const key = `${frame} ${direction}`;
      const known = longest.get(key);
      if (known !== undefined) return known;
      let best = 0;
      for (let before = 0; before < frame; before++) {
        const change = direction * (itemAt(light, frame) - itemAt(light, before));
        if (change < 0.1 - 1e-6 || Math.min(itemAt(light, frame), itemAt(light, before)) >= 0.8) continue;
        best = Math.max(best, (before >= from ? chainTo(before, direction === 1 ? -1 : 1) : 0) + 1);
      }
      longest.set(key, best);
      return best;
    };
    for (let last = from; last < Math.min(light.length, from + fps); last++)
      if (Math.max(chainTo(last, 1), chainTo(last, -1)) >= 8) return true;
  }
  return false;
}

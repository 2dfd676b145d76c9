import bidiFactory from "bidi-js";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { safeArea } from "../picture/index.ts";
import { itemAt, lastOf, valueFor } from "../presence/index.ts";
import { breakLines, type MeasuredParagraph, measureParagraph } from "./break-lines.ts";
import { candidateFiles, type FontFile, graphemes, parseUnicodeRange } from "./font-files.ts";
import { backingFor, contrastRatio, letterContrast, parseColour, relativeLuminance, type Shaper } from "./index.ts";
import { divideParagraph, visualOrder } from "./runs.ts";

describe("contrast", () => {
  const ratio = (a: string, b: string): number =>
    contrastRatio(relativeLuminance(parseColour(a)), relativeLuminance(parseColour(b)));

  it("is that of WCAG's worked values", () => {
    expect(ratio("#000000", "#ffffff")).toBeCloseTo(21, 9);
    expect(ratio("#ffffff", "#ffffff")).toBe(1);
    // Understanding WCAG 1.4.3 and its techniques: #767676 is the lightest grey that passes on
    // white, #777777 just fails.
    expect(ratio("#767676", "#ffffff")).toBeCloseTo(4.54, 2);
    expect(ratio("#777777", "#ffffff")).toBeCloseTo(4.48, 2);
    // The luminance of the sRGB primaries (IEC 61966-2-1).
    expect(["#ff0000", "#00ff00", "#0000ff"].map((colour) => relativeLuminance(parseColour(colour)))).toEqual([
      expect.closeTo(0.2126, 9),
      expect.closeTo(0.7152, 9),
      expect.closeTo(0.0722, 9),
    ]);
  });

  const pixel = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255), fc.constantFrom(0, 255));
  it("of letters is exceeded by all but a twentieth of their surroundings, and by no more than that", () => {
    fc.assert(
      fc.property(fc.array(pixel, { minLength: 1, maxLength: 200 }), (pixels) => {
        const behind = Uint8Array.from(pixels.flatMap(([r, g, b]) => [r, g, b, 255]));
        const around = Uint8Array.from(pixels.flatMap(([, , , seen]) => [255, 255, 255, seen]));
        const own = relativeLuminance([255, 248, 236]);
        const seen = pixels
          .filter((one) => one[3] === 255)
          .map(([r, g, b]) => contrastRatio(own, relativeLuminance([r, g, b])));
        const said = letterContrast("#fff8ec", behind, around);
        if (seen.length === 0) return said === 21;
        const worse = seen.filter((one) => one < said - 1e-12).length;
        const notBetter = seen.filter((one) => one <= said + 1e-12).length;
        return worse <= 0.05 * seen.length && notBetter >= Math.floor(0.05 * (seen.length - 1)) + 1;
      }),
    );
  });

  it("is reached by the backing that is offered, the weakest that does", () => {
    const around = Uint8Array.from([0, 0, 0, 255]);
    const grey = (level: number) => ({ behind: Uint8Array.from([level, level, level, 255]), around });
    const strengths = [0, 60, 120, 180, 255].map((level) => backingFor("#ffffff", [grey(level)], 4.5));
    expect(strengths.map(({ colour }) => colour)).toEqual(Array(5).fill("#0b171c"));
    for (const [i, { strength }] of strengths.slice(1).entries())
      expect(strength).toBeGreaterThanOrEqual(itemAt(strengths, i).strength);
    for (const [i, level] of [0, 60, 120, 180, 255].entries()) {
      const { colour, strength } = itemAt(strengths, i);
      const ground = { colour: parseColour(colour), strength };
      expect(letterContrast("#ffffff", grey(level).behind, around, ground)).toBeGreaterThanOrEqual(4.5);
    }
    expect(backingFor("#102030", [grey(20)], 4.5).colour).toBe("#fbf7ee");
  });
});

describe("safe areas", () => {
  it("are 93 and 90 % of each side (SMPTE ST 2046-1)", () => {
    const edges = (kind: "action" | "title"): number[] => {
      const { x, y, width, height } = safeArea({ width: 1920, height: 1080 }, kind);
      return [x, y, width, height].map((length) => Math.round(length * 1e6) / 1e6);
    };
    expect(edges("title")).toEqual([96, 54, 1728, 972]);
    expect(edges("action")).toEqual([67.2, 37.8, 1785.6, 1004.4]);
  });

  it("for titles in films of phones are what their pages leave free: 14, 20 and 11 % stay empty", () => {
    const { x, y, width, height } = safeArea({ width: 1080, height: 1920 }, "title");
    expect([x, 1080 - x - width].map(Math.round)).toEqual([119, 119]);
    expect([y, 1920 - y - height].map(Math.round)).toEqual([269, 384]);
    // 4:5 is seen within a page, with nothing over it.
    expect(safeArea({ width: 1080, height: 1350 }, "title").y).toBeCloseTo(67.5);
  });
});

const LATIN: FontFile = { name: "latin", family: "Josefin Sans", weight: 400, italic: false, ranges: [[0, 0x24f]] };
const HEBREW: FontFile = {
  name: "hebrew",
  family: "Noto Sans Hebrew",
  weight: 400,
  italic: false,
  ranges: [
    [0x590, 0x5ff],
    [0x20, 0x20],
  ],
};
const EMOJI: FontFile = {
  name: "emoji",
  family: "Noto Color Emoji",
  weight: 400,
  italic: false,
  ranges: [
    [0x23, 0x39],
    [0x1f000, 0x1faff],
    [0x2600, 0x27bf],
  ],
};
const FILES = [LATIN, HEBREW, EMOJI];
const FACE = { font: "Josefin Sans", weight: 400, italic: false, spacing: 0, capitals: "as-written" } as const;

/** Every letter is half an em wide, wide letters a whole one. */
const ruler: Shaper = {
  isLoaded: () => true,
  covers: (file, grapheme) => candidateFiles(FILES, grapheme, FACE).some(({ name }) => name === file),
  extent: () => ({ ascent: 0.8, descent: 0.2 }),
  shape: (_file, text) => {
    let x = 0;
    const glyphs = graphemes(text).map(({ text: letter, start }) => {
      const advance = letter === "W" ? 1 : 0.5;
      const glyph = { outline: [], paints: null, x, y: 0, advance, start };
      x += advance;
      return glyph;
    });
    return { glyphs, width: x };
  },
};
const paragraphOf = (text: string) => divideParagraph(text, FACE, FILES, ruler);

describe("fonts", () => {
  it("are chosen by letter: the film font first, an emoji's own first of all", () => {
    const names = (grapheme: string): string[] => candidateFiles(FILES, grapheme, FACE).map(({ name }) => name);
    expect(names("a")).toEqual(["latin"]);
    expect(names("ש")).toEqual(["hebrew"]);
    // A digit is a letter unless a keycap makes it an emoji (UTS 51).
    expect(names("7")[0]).toBe("latin");
    expect(names("🏮")).toEqual(["emoji"]);
    expect(names("界")).toEqual([]);
    expect(parseUnicodeRange("U+0-FF, U+131,U+1F3F3-1F3F4")).toEqual([
      [0, 255],
      [0x131, 0x131],
      [0x1f3f3, 0x1f3f4],
    ]);
  });

  it("name what none of them has, once", () => {
    expect(paragraphOf("a界b界c世").missing).toEqual(["界", "世"]);
  });
});

describe("runs of a line", () => {
  const mixed = fc.string({
    unit: fc.constantFrom("a", "b", " ", "7", "ש", "ל", "(", ")"),
    minLength: 1,
    maxLength: 24,
  });

  it("stand in the order that the bidirectional algorithm gives each letter", () => {
    const bidi = bidiFactory();
    fc.assert(
      fc.property(mixed, (text) => {
        const { runs } = paragraphOf(text);
        expect(runs.map((run) => run.text).join("")).toBe(text);
        const seen = visualOrder(runs).flatMap(({ text: part, start, level }) => {
          const places = Array.from(part, (_, i) => start + i);
          return level % 2 === 1 ? places.reverse() : places;
        });
        const levels = bidi.getEmbeddingLevels(text);
        // Spaces at a line's end take the paragraph's direction (rule L1); lines here end without
        // any.
        const end = text.trimEnd().length;
        const expected = bidi.getReorderedIndices(text.slice(0, end), {
          ...levels,
          levels: levels.levels.slice(0, end),
        });
        expect(seen.filter((place) => place < end)).toEqual([...expected]);
      }),
    );
  });
});

describe("lines", () => {
  const words = fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 9 });

  /** The widest line, for every number of lines, of every way to break. */
  function bestWidths(widths: readonly number[]): Map<number, number> {
    const best = new Map<number, number>();
    for (let breaks = 0; breaks < 1 << (widths.length - 1); breaks++) {
      const lines = [[itemAt(widths, 0)]];
      for (let i = 1; i < widths.length; i++) {
        if (breaks & (1 << (i - 1))) lines.push([itemAt(widths, i)]);
        else lastOf(lines).push(itemAt(widths, i));
      }
      const widest = Math.max(...lines.map((line) => line.reduce((sum, one) => sum + one, 0.5 * (line.length - 1))));
      best.set(lines.length, Math.min(best.get(lines.length) ?? Number.POSITIVE_INFINITY, widest));
    }
    return best;
  }

  it("are as few as can be and as even as can be, as trying every way to break shows", () => {
    fc.assert(
      fc.property(words, fc.integer({ min: 10, max: 40 }), (lengths, halves) => {
        const text = lengths.map((length) => "x".repeat(length)).join(" ");
        const measured: MeasuredParagraph = measureParagraph(paragraphOf(text), ruler);
        const width = Math.max(halves / 2, 4.5);
        const lines = breakLines(measured, width, ruler);
        const widest = Math.max(...lines.map(({ start, end }) => (end - start) / 2));
        const best = bestWidths(lengths.map((length) => length / 2));
        const fewest = [...best].filter(([, wide]) => wide <= width + 1e-9).map(([count]) => count);
        expect(lines.length).toBe(Math.min(...fewest));
        expect(widest).toBeCloseTo(valueFor(best, lines.length), 1);
        expect(lines.map(({ start, end }) => text.slice(start, end)).join(" ")).toBe(text);
      }),
    );
  });

  it("break a word that is wider than a line between letters, and lose none", () => {
    const text = "a Wwwwwwwwwwwwwwwwww end";
    const lines = breakLines(measureParagraph(paragraphOf(text), ruler), 3, ruler);
    for (const { start, end } of lines)
      expect(ruler.shape("latin", text.slice(start, end), false, false).width).toBeLessThanOrEqual(3);
    expect(
      lines
        .map(({ start, end }) => text.slice(start, end))
        .join("")
        .replaceAll(" ", ""),
    ).toBe(text.replaceAll(" ", ""));
  });
});

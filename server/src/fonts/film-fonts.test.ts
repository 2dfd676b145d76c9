import { readFile } from "node:fs/promises";
import {
  AS_IT_IS,
  drawFrame,
  type EntranceState,
  type FramePlan,
  type PlannedWords,
  safeArea,
  type WordSheet,
} from "@humming-tide/core/picture";
import { itemAt, lastOf, present } from "@humming-tide/core/presence";
import { ENTRANCES, FILM_FONTS, FIRST_STYLE, type FilmFont, type Letters } from "@humming-tide/core/show";
import {
  designWords,
  filesForWords,
  type LaidWords,
  laySheet,
  leastSize,
  openTypeOf,
  UPRIGHT_FONTS,
  wordsArea,
} from "@humming-tide/core/words";
import { createCanvas } from "@napi-rs/canvas";
import { describe, expect, it } from "vitest";
import { ClipFrames } from "../outputs/video/clip-frames.ts";
import { FilmSources } from "../outputs/video/film-sources.ts";
import { PictureCache, surfaceOf } from "../outputs/video/picture-cache.ts";
import { FilmFonts, filmFontFiles } from "./film-fonts.ts";

const FRAME = { width: 960, height: 540 };
const fonts = new FilmFonts();
const { letters } = FIRST_STYLE;

const words = (
  kind: PlannedWords["kind"],
  text: string,
  place: PlannedWords["place"],
  more: Partial<Letters> = {},
): PlannedWords => designWords({ kind, text, place, size: 1 }, { ...letters, titleSet: null, ...more });

async function lay(sheet: WordSheet, frame = FRAME): Promise<readonly LaidWords[]> {
  await fonts.preload(sheet);
  return present(laySheet(sheet, frame, fonts));
}

describe("film fonts", () => {
  it("are whole: every table has the check sum that its file says (OpenType, table directory)", async () => {
    const main = filmFontFiles().filter(({ name }) => /(latin|hebrew|arabic|emoji-9)-400/.test(name));
    expect(main.length).toBeGreaterThanOrEqual(FILM_FONTS.length);
    for (const { path } of main) {
      const font = openTypeOf(await readFile(path));
      const view = new DataView(font.buffer);
      for (let table = 0; table < view.getUint16(4); table++) {
        const [tag, sum, offset, length] = [0, 4, 8, 12].map((at) => view.getUint32(12 + 16 * table + at)) as [
          number,
          number,
          number,
          number,
        ];
        const isHead = tag === 0x68656164;
        let own = 0;
        for (let at = 0; at < length; at += 4) {
          let word = 0;
          for (let byte = 0; byte < 4; byte++)
            word = word * 256 + (at + byte < length ? itemAt(font, offset + at + byte) : 0);
          // The head table's own field of the whole font's sum counts as zero.
          own = (own + (isHead && at === 8 ? 0 : word)) >>> 0;
        }
        expect(own, `${path}, table ${table}`).toBe(sum);
      }
    }
  });

  it("refuse what is no font", () => {
    expect(() => openTypeOf(new Uint8Array(60))).toThrow(expect.objectContaining({ code: "font-damaged" }));
  });

  it("have the letters of Europe in every film font, by themselves or by their stand-in", async () => {
    for (const font of FILM_FONTS) {
      const [laid] = await lay([
        words("text", "Łódź Ærø Çeşme Žižkov Ñandú Ελλάδα Київ 123 – “…”", "middle", { font }),
      ]);
      expect(present(laid).missing, font).toEqual([]);
    }
  });
});

describe("words laid out", () => {
  it("take about the room that is reckoned with before their font is there, in every font", async () => {
    const texts = [
      "Closing night",
      "Crew of the Firefly\nfirst across the line",
      `The lantern cup goes ${"to the quay ".repeat(9)}`,
    ];
    for (const frame of [FRAME, { width: 540, height: 960 }])
      for (const font of FILM_FONTS)
        for (const kind of ["title", "text", "lower-third", "caption"] as const)
          for (const text of texts) {
            const planned = words(kind, text, "bottom-left", { font });
            const { bounds } = itemAt(await lay([planned], frame), 0);
            const area = wordsArea(planned, frame);
            const what = `${font} ${kind} ${frame.width}: ${text.slice(0, 20)}`;
            // Script letters are narrow, capitals wide.
            expect(area.width / bounds.width, what).toBeGreaterThan(0.55);
            expect(area.width / bounds.width, what).toBeLessThan(2);
            expect(area.height / bounds.height, what).toBeGreaterThan(0.45);
            expect(area.height / bounds.height, what).toBeLessThan(2.2);
          }
  });

  it("lie in the title-safe area and not over each other, in every shape of film, wherever they are put", async () => {
    for (const frame of [
      FRAME,
      { width: 540, height: 960 },
      { width: 540, height: 540 },
      { width: 540, height: 675 },
    ]) {
      const safe = safeArea(frame, "title");
      for (const place of ["top-left", "middle", "bottom", "bottom-right"] as const) {
        const laid = await lay(
          [
            words("caption", "The lantern cup goes to the north quay", place, {
              backing: { colour: "#000000", strength: 0.5 },
            }),
            words("lower-third", "Crew of the Firefly\nfirst across the line", place),
            words("title", "Closing night of the regatta\nin the harbour", place),
          ],
          frame,
        );
        for (const { bounds } of laid) {
          expect(bounds.x).toBeGreaterThanOrEqual(safe.x - 1e-6);
          expect(bounds.y).toBeGreaterThanOrEqual(safe.y - 1e-6);
          expect(bounds.x + bounds.width).toBeLessThanOrEqual(safe.x + safe.width + 1e-6);
          expect(bounds.y + bounds.height).toBeLessThanOrEqual(safe.y + safe.height + 1e-6);
        }
        for (const [i, { bounds: a, overflows }] of laid.entries())
          for (const { bounds: b } of laid.slice(0, i))
            if (!overflows)
              expect(
                a.y + a.height <= b.y || b.y + b.height <= a.y || a.x + a.width <= b.x || b.x + b.width <= a.x,
              ).toBe(true);
      }
    }
  });

  it("wrap, then shrink, and a word that is too long even so is broken", async () => {
    const long = "Donaudampfschifffahrtselektrizitätenhauptbetriebswerk";
    const [usual] = await lay([words("title", "Race", "middle")]);
    const [wrapped] = await lay([words("title", "The race around the breakwater and back again", "middle")]);
    const [shrunk] = await lay([words("title", long, "middle")]);
    const [broken] = await lay([words("title", long.repeat(3), "middle")]);
    expect([present(usual).isShrunk, present(wrapped).isShrunk, present(shrunk).isShrunk]).toEqual([
      false,
      false,
      true,
    ]);
    expect(present(wrapped).lines.length).toBeGreaterThan(1);
    expect(present(shrunk).pixels).toBeLessThan(present(usual).pixels);
    expect(present(broken).lines.length).toBeGreaterThan(1);
    for (const { box } of present(broken).lines) expect(box.width).toBeLessThanOrEqual(0.9 * FRAME.width);
    const [full] = await lay([words("caption", "word ".repeat(400), "bottom")]);
    expect(present(full).overflows).toBe(true);
  });

  it("join Arabic letters, and set Hebrew from right to left with its numbers from left to right", async () => {
    const [joined, apart] = [
      await lay([words("text", "سباق", "middle")]),
      await lay([words("text", "س\u200cب\u200cا\u200cق", "middle")]),
    ];
    const shapes = ([one]: readonly LaidWords[]) =>
      itemAt(present(one).lines, 0).glyphs.map(({ outline }) => JSON.stringify(outline));
    expect(new Set(shapes(joined))).not.toEqual(new Set(shapes(apart)));
    const [single] = await lay([words("text", "מ", "middle")]);
    const [hebrew] = await lay([words("text", "מרוץ 31", "middle")]);
    const first = JSON.stringify(itemAt(itemAt(present(single).lines, 0).glyphs, 0).outline);
    const glyphs = [...itemAt(present(hebrew).lines, 0).glyphs].sort((a, b) => a.x - b.x);
    // What is read first stands at the right; the number, read last, at the left.
    expect(JSON.stringify(lastOf(glyphs).outline)).toBe(first);
    const [three] = await lay([words("text", "3", "middle")]);
    expect(JSON.stringify(itemAt(glyphs, 0).outline)).toBe(
      JSON.stringify(itemAt(itemAt(present(three).lines, 0).glyphs, 0).outline),
    );
  });

  it("stand apart as they are asked to, and joined letters do not", async () => {
    const width = async (spacing: number, font: FilmFont, text = "Firefly"): Promise<number> => {
      const [laid] = await lay([words("text", text, "middle", { font, spacing })]);
      return present(laid).bounds.width / present(laid).pixels;
    };
    // Seven letters have six gaps between them; the seventh is not seen.
    expect((await width(0.2, "Cinzel", "HHHHHHH")) - (await width(0, "Cinzel", "HHHHHHH"))).toBeCloseTo(1.2, 6);
    expect(await width(0.2, "Great Vibes")).toBeCloseTo(await width(0, "Great Vibes"), 9);
    expect(await width(0.2, "Noto Sans", "سباق")).toBeCloseTo(await width(0, "Noto Sans", "سباق"), 9);
  });

  it("are capitals where that is asked, and small capitals where they were small letters", async () => {
    const widthOf = async (text: string, capitals: "as-written" | "all" | "small"): Promise<number> => {
      const [laid] = await lay([words("text", text, "middle", { font: "Montserrat", capitals })]);
      return present(laid).bounds.width;
    };
    expect(await widthOf("straße", "all")).toBeCloseTo(await widthOf("STRASSE", "as-written"), 6);
    expect(await widthOf("REGATTA", "small")).toBeCloseTo(await widthOf("REGATTA", "as-written"), 6);
    expect(await widthOf("lantern", "small")).toBeCloseTo(0.8 * (await widthOf("LANTERN", "as-written")), 6);
  });

  it("are italic in fonts that have italics, and upright in the others", async () => {
    for (const font of FILM_FONTS) {
      const family = font.toLowerCase().replaceAll(" ", "-");
      const used = async (italic: boolean): Promise<string> => {
        const sheet = [words("text", "Regatta", "middle", { font, italic })];
        await fonts.preload(sheet);
        return [...filesForWords(fonts, sheet)].filter((name) => name.startsWith(`${family}-latin-`)).join();
      };
      expect((await used(true)).includes("italic"), font).toBe(!UPRIGHT_FONTS.has(font));
      expect(await used(false), font).not.toContain("italic");
    }
  });

  it("are not set so small that they would not be read, and say so", async () => {
    const [laid] = await lay([words("caption", "The crew of the Firefly", "middle", { font: "Great Vibes" })]);
    const heights = present(laid).lines.flatMap(({ glyphs }) => glyphs.map(({ pixels }) => pixels));
    expect(Math.min(...heights)).toBeCloseTo(leastSize("Great Vibes") * FRAME.height, 6);
    expect(present(laid).raised).toEqual(["Great Vibes"]);
    const [large] = await lay([words("title", "The Firefly", "middle", { font: "Great Vibes" })]);
    expect(present(large).raised).toEqual([]);
  });

  it("stand against the side that is asked for, in the place that is asked for", async () => {
    const edges = async (align: "left" | "middle" | "right"): Promise<number[]> => {
      const planned = { ...words("text", "Firefly\nfirst across the line", "middle"), align };
      const { bounds, lines } = itemAt(await lay([planned]), 0);
      const short = itemAt(lines, 0).box;
      return [short.x - bounds.x, bounds.x + bounds.width - short.x - short.width];
    };
    expect(itemAt(await edges("left"), 0)).toBeCloseTo(0, 6);
    expect(itemAt(await edges("right"), 1)).toBeCloseTo(0, 6);
    const [before, after] = await edges("middle");
    expect(before).toBeCloseTo(present(after), 6);
  });

  it("say which letters no font has", async () => {
    const [laid] = await lay([words("text", "港の夜 at the quay", "middle")]);
    expect(present(laid).missing).toEqual(["港", "の", "夜"]);
  });
});

async function drawn(
  sheet: WordSheet,
  alpha = 1,
  entrance: EntranceState | null = null,
): Promise<{ at: (x: number, y: number) => number[]; colours: Set<string>; data: Uint8Array }> {
  const plan: FramePlan = {
    size: FRAME,
    veils: [],
    layers: [
      {
        kind: "scene",
        ground: { kind: "colour", colour: "#204060" },
        alpha: 1,
        bounds: null,
        mask: null,
        parts: sheet.map((_, index) => ({
          kind: "words",
          sheet,
          index,
          alpha,
          scrolled: null,
          entrance,
          placement: AS_IT_IS,
        })),
      },
    ],
  };
  const clips = new ClipFrames(() => "");
  const sources = new FilmSources(new PictureCache(() => ""), clips, FRAME);
  await sources.preload(plan);
  const canvas = createCanvas(FRAME.width, FRAME.height);
  drawFrame(surfaceOf(canvas), plan, sources);
  const data = canvas.data();
  const at = (x: number, y: number): number[] => [
    ...data.subarray(4 * (y * FRAME.width + x), 4 * (y * FRAME.width + x) + 3),
  ];
  const colours = new Set<string>();
  for (let i = 0; i < data.length; i += 4) colours.add(`${data[i]} ${data[i + 1]} ${data[i + 2]}`);
  return { at, colours, data };
}

describe("words drawn", () => {
  const plain = { shadow: 0, outline: null, backing: null } as const;

  it("have just their colour, and half of it in the middle of a fade", async () => {
    const full = await drawn([words("title", "HHH", "middle", { ...plain, colour: "#f0c040" })]);
    expect(full.colours.has("240 192 64")).toBe(true);
    expect(full.at(5, 5)).toEqual([0x20, 0x40, 0x60]);
    const half = await drawn([words("title", "HHH", "middle", { ...plain, colour: "#f0c040" })], 0.5);
    const middle = [0xf0 + 0x20, 0xc0 + 0x40, 0x40 + 0x60].map((sum) => sum / 2);
    const nearest = Math.min(
      ...[...half.colours].map((colour) =>
        Math.max(...colour.split(" ").map((code, i) => Math.abs(Number(code) - itemAt(middle, i)))),
      ),
    );
    expect(nearest).toBeLessThanOrEqual(1);
    expect(half.colours.has("240 192 64")).toBe(false);
  });

  it("have outline, shadow and backing where they are asked for", async () => {
    const text = words("title", "HHH", "middle", { ...plain, colour: "#ffffff" });
    const outlined = await drawn([{ ...text, outline: { width: 0.5, colour: "#c02020" } }]);
    expect(outlined.colours.has("192 32 32")).toBe(true);
    const [laid] = await lay([text]);
    const beside = [
      Math.round(present(laid).bounds.x) - 8,
      Math.round(present(laid).bounds.y + present(laid).bounds.height / 2),
    ] as const;
    const backed = await drawn([{ ...text, backing: { colour: "#000000", strength: 0.5 } }]);
    for (const [i, code] of backed.at(...beside).entries())
      expect(Math.abs(code - itemAt([16, 32, 48], i))).toBeLessThanOrEqual(3);
    const shaded = await drawn([{ ...text, shadow: 1 }]);
    const darkest = Math.min(...[...shaded.colours].map((colour) => Number(colour.split(" ")[2])));
    expect(darkest).toBeLessThan(40);
  });

  it("look as they stand when they have come in, whichever way they came, and show less before", async () => {
    const ink = (data: Uint8Array): number => {
      let sum = 0;
      for (let i = 0; i < data.length; i += 4) sum += Math.abs(itemAt(data, i) - 0x20);
      return sum;
    };
    for (const entrance of ENTRANCES) {
      if (entrance === "fade") continue;
      // Lines that do not touch: a shadow that falls on the line below is drawn in another order.
      const more = { titleSet: "harbour", entrance, shadow: 0.6 } as const;
      const sheet = [words("title", "Closing night\n\n\nof the regatta", "middle", more)];
      const at = (share: number): EntranceState => {
        const shares = [share, 1, 1, share];
        return { kind: entrance, lines: entrance === "track" ? [1, 1, 1, 1] : shares, ornament: share, whole: share };
      };
      const standing = await drawn([{ ...itemAt(sheet, 0), entrance: "fade" }]);
      const come = await drawn(sheet, 1, at(1));
      let worst = 0;
      for (const [i, value] of come.data.entries()) worst = Math.max(worst, Math.abs(value - itemAt(standing.data, i)));
      expect(worst, entrance).toBeLessThanOrEqual(8);
      if (entrance !== "track") {
        const inks = await Promise.all(
          [0.1, 0.5, 0.9].map(async (share) => ink((await drawn(sheet, 1, at(share))).data)),
        );
        expect(itemAt(inks, 0), entrance).toBeLessThan(itemAt(inks, 1));
        expect(itemAt(inks, 1), entrance).toBeLessThan(itemAt(inks, 2));
        expect(itemAt(inks, 2), entrance).toBeLessThan(1.02 * ink(standing.data));
      }
    }
  });

  it("show emoji in their own colours: a flag is red, white and blue", async () => {
    const { colours } = await drawn([words("title", "🇳🇴", "middle", plain)]);
    const codes = [...colours].map((colour) => colour.split(" ").map(Number) as [number, number, number]);
    expect(codes.some(([r, g, b]) => r > 180 && g < 80 && b < 90)).toBe(true);
    expect(codes.some(([r, g, b]) => r > 220 && g > 220 && b > 220)).toBe(true);
    expect(codes.some(([r, g, b]) => r < 60 && g < 80 && b > 90)).toBe(true);
  });
});

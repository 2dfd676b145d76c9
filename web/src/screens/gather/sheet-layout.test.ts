import { itemAt } from "@humming-tide/core/presence";
import { newPassage, newSlide, type Passage } from "@humming-tide/core/show";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { offsetText, parseOffset } from "./clock-offset.ts";
import { dropPlace, layOutSheet, rangeOf, type SheetStep, slidesIn, stepFrom } from "./sheet-layout.ts";

const passage = (id: string, name = id): Passage => newPassage(id, name);

/** Passages of so many slides each: ids "a0", "a1" … "b0" … */
function sheet(counts: readonly number[], width = 700, cell = 148) {
  const passages = counts.map((_, i) => passage(itemAt("abcdef", i)));
  const slides = counts.flatMap((count, i) =>
    Array.from({ length: count }, (_, k) =>
      newSlide({ id: `${"abcdef"[i]}${k}`, sha256: "0".repeat(64), fileName: `${k}.jpg` }, "abcdef"[i]),
    ),
  );
  return layOutSheet(passages, slides, width, cell);
}
const whole = (layout: ReturnType<typeof sheet>) => ({ x: 0, y: 0, width: 10_000, height: layout.height });

const anySheet = fc.record({
  counts: fc.array(fc.nat(23), { minLength: 1, maxLength: 5 }),
  width: fc.integer({ min: 120, max: 2000 }),
});

describe("the sheet's layout", () => {
  it("shows every slide once, in rows that follow one another without gap, inside the width", () => {
    fc.assert(
      fc.property(anySheet, ({ counts, width }) => {
        const layout = sheet(counts, width);
        let y = 0;
        for (const row of layout.rows) {
          expect(row.y).toBe(y);
          y += row.height;
        }
        expect(layout.height).toBe(y);
        expect(layout.shown).toHaveLength(counts.reduce((sum, count) => sum + count, 0));
        expect(layout.columns * layout.cellWidth + (layout.columns - 1) * 12).toBeLessThanOrEqual(
          Math.max(width, 40) + 1e-6,
        );
        expect(slidesIn(layout, whole(layout))).toEqual(layout.shown.map(({ id }) => id));
      }),
    );
  });

  it("has no heading for one passage without a name, and a place for an empty one", () => {
    expect(layOutSheet([passage("a", "")], [], 700, 148).rows).toEqual([]);
    expect(sheet([2, 0, 1]).rows.map(({ kind }) => kind)).toEqual([
      "passage",
      "slides",
      "passage",
      "empty",
      "passage",
      "slides",
    ]);
  });
});

describe("the rubber band", () => {
  it("takes what it touches, as a plain comparison of every cell says", () => {
    const layout = sheet([7, 3]);
    const [cell, row] = [layout.cellWidth + 12, layout.imageHeight + 42 + 12];
    expect(layout.columns).toBe(4);
    // From the middle of the second cell to the middle of the third, over both rows of the first
    // passage.
    const band = { x: cell + 20, y: 52 + 10, width: cell, height: row };
    expect(slidesIn(layout, band)).toEqual(["a1", "a2", "a5", "a6"]);
    expect(slidesIn(layout, { x: 0, y: 0, width: 700, height: 40 })).toEqual([]);
    expect(slidesIn(layout, { x: cell - 8, y: 60, width: 4, height: 4 })).toEqual([]);
  });
});

describe("dropping", () => {
  const layout = sheet([6, 0, 2]);
  const cell = layout.cellWidth + 12;
  const row = layout.imageHeight + 54;
  it.each([
    ["before the first", 5, 60, { passageId: "a", beforeId: "a0" }],
    ["behind the middle of the first", cell * 0.7, 60, { passageId: "a", beforeId: "a1" }],
    ["at the end of a row", 690, 60, { passageId: "a", beforeId: "a4" }],
    ["behind the last of the passage", 690, 60 + row, { passageId: "a", beforeId: null }],
    ["on the heading of an empty one", 50, 52 + 2 * row + 10, { passageId: "b", beforeId: null }],
    ["on its empty place", 50, 52 + 2 * row + 70, { passageId: "b", beforeId: null }],
    ["on the heading of the last", 50, 52 + 2 * row + 52 + 74 + 10, { passageId: "c", beforeId: "c0" }],
    ["far below", 690, 5000, { passageId: "c", beforeId: null }],
  ])("%s", (_where, x, y, place) => {
    expect(dropPlace(layout, x, y)?.place).toEqual(place);
  });
});

describe("keys", () => {
  it("walk over rows of uneven length and back, and never leave the sheet", () => {
    const layout = sheet([6, 1, 9]);
    const walk = (from: number, ...steps: SheetStep[]): string =>
      itemAt(
        layout.shown,
        steps.reduce((at, step) => stepFrom(layout, at, step), from),
      ).id;
    expect(walk(1, "down")).toBe("a5");
    expect(walk(3, "down")).toBe("a5");
    expect(walk(5, "down")).toBe("b0");
    expect(walk(5, "down", "down", "down")).toBe("c4");
    expect(walk(0, "up")).toBe("a0");
    expect(walk(15, "down")).toBe("c8");
    expect(walk(0, "left")).toBe("a0");
    expect(walk(5, "right")).toBe("b0");
    expect([walk(4, "home"), walk(4, "end")]).toEqual(["a0", "c8"]);
    expect(rangeOf(layout, 6, 4)).toEqual(["a4", "a5", "b0"]);
  });
});

describe("a clock's offset", () => {
  it("is written and read again, whatever it is", () => {
    fc.assert(
      fc.property(fc.integer({ min: -400_000, max: 400_000 }), (seconds) => {
        expect(parseOffset(offsetText(seconds))).toBe(seconds);
      }),
    );
    expect([parseOffset("-0:30"), parseOffset("+1:00:05"), parseOffset("−2:00")]).toEqual([-1800, 3605, -7200]);
    for (const wrong of ["", "1", "1:60", "a:00", "1:00:00:00", "--1:00"]) expect(parseOffset(wrong)).toBeNull();
  });
});

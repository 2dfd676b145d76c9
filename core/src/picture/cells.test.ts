import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { LAYOUT_KINDS, WORD_PLACES } from "../show/index.ts";
import { insetCells, insideMargin, layoutCells } from "./cells.ts";

const frames = fc.constantFrom(
  { width: 1920, height: 1080 },
  { width: 1080, height: 1920 },
  { width: 1080, height: 1080 },
  { width: 1080, height: 1350 },
  { width: 640, height: 360 },
);

describe("pictures over another", () => {
  const shapes = fc.array(
    fc.constantFrom(
      { width: 3, height: 2 },
      { width: 2, height: 3 },
      { width: 1, height: 1 },
      { width: 16, height: 9 },
    ),
    { minLength: 1, maxLength: 5 },
  );

  it("lie inside of the frame and never on each other, in their own shapes, alike in area, at their place", () => {
    fc.assert(
      fc.property(
        shapes,
        frames,
        fc.constantFrom(...WORD_PLACES),
        fc.double({ min: 0.15, max: 0.7, noNaN: true }),
        fc.integer({ min: 0, max: 40 }),
        (pictures, frame, place, size, gap) => {
          const cells = insetCells(pictures, { place, size }, { x: 0, y: 0, ...frame }, gap);
          const margin = 0.06 * Math.min(frame.width, frame.height) - 1;
          const areas = cells.map(({ width, height }) => width * height);
          for (const [i, cell] of cells.entries()) {
            expect(cell.x >= margin && cell.y >= margin).toBe(true);
            expect(cell.x + cell.width <= frame.width - margin).toBe(true);
            expect(cell.y + cell.height <= frame.height - margin).toBe(true);
            const { width, height } = itemAt(pictures, i);
            expect(Math.abs(cell.width - (cell.height * width) / height)).toBeLessThanOrEqual(1 + width / height);
            expect(itemAt(areas, i) / Math.max(...areas)).toBeGreaterThan(0.85);
            for (const other of cells.slice(0, i)) {
              const across = Math.max(cell.x - (other.x + other.width), other.x - (cell.x + cell.width));
              const down = Math.max(cell.y - (other.y + other.height), other.y - (cell.y + cell.height));
              expect(Math.max(across, down)).toBeGreaterThanOrEqual(gap - 1);
            }
          }
          // Against the edges that their place names.
          if (place.endsWith("left")) expect(Math.min(...cells.map(({ x }) => x))).toBeLessThanOrEqual(margin + 2);
          if (place.startsWith("top")) expect(Math.min(...cells.map(({ y }) => y))).toBeLessThanOrEqual(margin + 2);
        },
      ),
    );
  });

  it("are so large as is asked where there is room: a square one as high as that share of the frame", () => {
    const [one] = insetCells(
      [{ width: 500, height: 500 }],
      { place: "bottom-right", size: 0.4 },
      { x: 0, y: 0, width: 1920, height: 1080 },
      0,
    );
    expect(one).toEqual({ x: 1920 - 65 - 432, y: 1080 - 65 - 432, width: 432, height: 432 });
  });
});

describe("layouts", () => {
  it("fill a frame without holes and without touching, whatever the kind, the count and the gap", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...LAYOUT_KINDS),
        fc.integer({ min: 1, max: 6 }),
        frames,
        fc.integer({ min: 0, max: 60 }),
        (kind, count, size, gap) => {
          const cells = layoutCells(kind, count, { x: 0, y: 0, ...size }, gap);
          expect(cells).toHaveLength(count);
          let area = 0;
          for (const [i, a] of cells.entries()) {
            expect([a.x, a.y, a.width, a.height].every(Number.isInteger)).toBe(true);
            expect(a.x >= gap - 1 && a.y >= gap - 1).toBe(true);
            expect(a.x + a.width <= size.width - gap + 1 && a.y + a.height <= size.height - gap + 1).toBe(true);
            // Grown by half a gap on every side they tile the frame but for its outer half gap.
            area += (a.width + gap) * (a.height + gap);
            for (const b of cells.slice(0, i)) {
              const across = Math.max(a.x - (b.x + b.width), b.x - (a.x + a.width));
              const down = Math.max(a.y - (b.y + b.height), b.y - (a.y + a.height));
              expect(Math.max(across, down)).toBeGreaterThanOrEqual(gap - 1);
            }
          }
          const whole = (size.width - gap) * (size.height - gap);
          // A pixel of rounding along each cell's sides.
          expect(Math.abs(area - whole)).toBeLessThanOrEqual(count * (size.width + size.height));
        },
      ),
    );
  });

  it("give the slide's own picture the large place, and stand one above the other in upright frames", () => {
    const wide = layoutCells("large-left", 4, { x: 0, y: 0, width: 1920, height: 1080 }, 0);
    expect(itemAt(wide, 0).width * itemAt(wide, 0).height).toBeGreaterThan(
      3 * itemAt(wide, 1).width * itemAt(wide, 1).height,
    );
    const upright = layoutCells("row", 3, { x: 0, y: 0, width: 1080, height: 1920 }, 0);
    expect(upright.map(({ x, width }) => [x, width])).toEqual(Array(3).fill([0, 1080]));
    expect(insideMargin({ width: 1920, height: 1080 }, 54.4)).toEqual({ x: 54, y: 54, width: 1812, height: 972 });
  });
});

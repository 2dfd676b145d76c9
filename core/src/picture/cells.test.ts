import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { LAYOUT_KINDS } from "../show/index.ts";
import { insideMargin, layoutCells } from "./cells.ts";

const frames = fc.constantFrom(
  { width: 1920, height: 1080 },
  { width: 1080, height: 1920 },
  { width: 1080, height: 1080 },
  { width: 1080, height: 1350 },
  { width: 640, height: 360 },
);

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

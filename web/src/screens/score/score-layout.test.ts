import type { Grid } from "@humming-tide/core/grid";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { beatsOfRow, placeAt, scoreLayout, spansBetween, timeAt } from "./score-layout.ts";

const grid = (count: number, gap: number, from: number, beatsPerBar = 4, firstPosition = 1): Grid => ({
  beatsPerBar,
  freeTime: [],
  beats: Array.from({ length: count }, (_, i) => ({
    seconds: from + i * gap,
    position: ((i + firstPosition - 1) % beatsPerBar) + 1,
    confidence: 1,
  })),
});

const anyGrid = fc
  .record({
    count: fc.integer({ min: 2, max: 300 }),
    gap: fc.double({ min: 0.3, max: 1, noNaN: true }),
    from: fc.double({ min: 0, max: 9, noNaN: true }),
    beatsPerBar: fc.constantFrom(2, 3, 4, 5),
    first: fc.integer({ min: 1, max: 2 }),
  })
  .map(({ count, gap, from, beatsPerBar, first }) => grid(count, gap, from, beatsPerBar, first));

const endOf = (music: Grid): number => music.beats.at(-1)!.seconds + 3;

describe("the Score's layout", () => {
  it("gives back the time of every place from the first beat to the end", () => {
    fc.assert(
      fc.property(anyGrid, fc.double({ min: 0, max: 1, noNaN: true }), (music, share) => {
        const layout = scoreLayout(music, endOf(music));
        const first = layout.beats[0]!.seconds;
        const time = first + share * (endOf(music) - first);
        const place = placeAt(layout, time);
        expect(timeAt(layout, place.row, place.share)).toBeCloseTo(time, 6);
      }),
    );
  });

  it("puts the same place of the bar into the same column of every row", () => {
    fc.assert(
      fc.property(anyGrid, (music) => {
        const layout = scoreLayout(music, endOf(music));
        const columns = layout.barsPerRow * layout.beatsPerBar;
        for (const row of layout.rows) {
          for (const { beat, share } of beatsOfRow(layout, row.index)) {
            expect((Math.round(share * columns) % layout.beatsPerBar) + 1).toBe(beat.position);
          }
        }
      }),
    );
  });

  it("covers a stretch with pieces that meet at the ends of rows", () => {
    fc.assert(
      fc.property(
        anyGrid,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (music, a, b) => {
          const layout = scoreLayout(music, endOf(music));
          const [from, to] = [Math.min(a, b) * endOf(music), Math.max(a, b) * endOf(music)];
          const spans = spansBetween(layout, from, to);
          spans.forEach((span, i) => {
            expect(span.to).toBeGreaterThanOrEqual(span.from);
            if (i > 0) expect([span.row, span.from, spans[i - 1]!.to]).toEqual([spans[i - 1]!.row + 1, 0, 1]);
          });
        },
      ),
    );
  });

  it("gives a breath before the music no row of its own, but a long silence does", () => {
    expect(scoreLayout(grid(64, 0.5, 0.3), 33).rows[0]).toMatchObject({ firstBar: 1, startSeconds: 0.3 });
    const silent = scoreLayout(grid(64, 0.5, 4.2), 37);
    expect(silent.rows[0]!.firstBar).toBeLessThan(1);
    expect(silent.rows[1]).toMatchObject({ firstBar: 1, startSeconds: 4.2 });
  });

  it("imagines beats for a song without any", () => {
    const layout = scoreLayout({ beats: [], beatsPerBar: 4, freeTime: [] }, 20);
    expect(layout.rows).toHaveLength(2);
    expect(layout.beats.every((beat) => beat.imagined)).toBe(true);
  });
});

import type { Grid } from "@humming-tide/core/grid";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { beatsOfRow, placeAt, rowEdges, scoreLayout, spansBetween, timeAt } from "./score-layout.ts";

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

const endOf = (music: Grid): number => lastOf(music.beats).seconds + 3;

describe("the Score's layout", () => {
  it("gives back the time of every place from the first beat to the end", () => {
    fc.assert(
      fc.property(anyGrid, fc.double({ min: 0, max: 1, noNaN: true }), (music, share) => {
        const layout = scoreLayout(music, endOf(music));
        const first = itemAt(layout.beats, 0).seconds;
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
        for (const row of layout.rows) {
          for (const { beat, share } of beatsOfRow(layout, row.index)) {
            expect((Math.round(share * row.columns) % row.beatsPerBar) + 1).toBe(beat.position);
          }
        }
      }),
    );
  });

  it("begins every bar in a column of bar starts also where meters change and single bars are longer or shorter", () => {
    const anyBars = fc.array(fc.tuple(fc.integer({ min: 2, max: 6 }), fc.integer({ min: 1, max: 20 })), {
      minLength: 1,
      maxLength: 12,
    });
    fc.assert(
      fc.property(anyBars, fc.double({ min: 0.3, max: 1, noNaN: true }), (runs, gap) => {
        const counts = runs.flatMap(([count, bars]) => Array.from({ length: bars }, () => count));
        const positions = counts.flatMap((count) => Array.from({ length: count }, (_, i) => i + 1));
        const beats = positions.map((position, i) => ({ seconds: 0.2 + i * gap, position, confidence: 1 }));
        const layout = scoreLayout({ beats, beatsPerBar: 4, freeTime: [] }, lastOf(beats).seconds + gap);
        let next = 0;
        for (const row of layout.rows) {
          expect(row.startBeat).toBe(next);
          next = row.endBeat;
          for (const { beat, share } of beatsOfRow(layout, row.index)) {
            expect(share).toBeLessThan(1);
            if (beat.position === 1) expect(Math.round(share * row.columns) % row.beatsPerBar).toBe(0);
          }
        }
        expect(next).toBe(layout.beats.length - 1);
        // A row as long as there is room for: no more rows than changes and full rows need.
        const full = runs.reduce((sum, [count, bars]) => sum + Math.ceil((count * bars) / 24), 0);
        expect(layout.rows.length).toBeLessThanOrEqual(full + 2 * runs.length);
      }),
    );
  });

  it("fills free time in the middle with imagined beats, so that a minute without a beat is not one column", () => {
    const before = grid(64, 0.5, 0.1).beats;
    const after = grid(64, 0.5, 60.1).beats;
    const layout = scoreLayout({ beats: [...before, ...after], beatsPerBar: 4, freeTime: [] }, 92);
    const between = layout.beats.filter(({ seconds }) => seconds > 31.7 && seconds < 60);
    expect(between).toHaveLength(56);
    expect(between.every((beat) => beat.imagined)).toBe(true);
    const { row, share } = placeAt(layout, 60.1);
    expect([row, share]).toEqual([3, 24 / 32]);
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
            if (i === 0) return;
            const before = itemAt(spans, i - 1);
            expect(before.to).toBe(rowEdges(itemAt(layout.rows, before.row))[1]);
            expect([span.row, span.from]).toEqual([before.row + 1, rowEdges(itemAt(layout.rows, span.row))[0]]);
          });
        },
      ),
    );
  });

  it("gives a breath before the music no row of its own, but a long silence does", () => {
    expect(scoreLayout(grid(64, 0.5, 0.3), 33).rows[0]).toMatchObject({ firstBar: 1, startSeconds: 0.3 });
    const silent = scoreLayout(grid(64, 0.5, 4.2), 37);
    expect(itemAt(silent.rows, 0).firstBar).toBeLessThan(1);
    expect(silent.rows[1]).toMatchObject({ firstBar: 1, startSeconds: 4.2 });
  });

  it("puts an upbeat before the first bar, in its row and in its own place of the bar", () => {
    const { rows, beats } = scoreLayout(grid(67, 0.5, 0.3, 4, 2), 34);
    expect(rows[0]).toMatchObject({ firstBar: 1, startBeat: 0, startSeconds: 0.3, columns: 36, firstColumn: 1 });
    expect(itemAt(beats, 3).position).toBe(1);
    expect(rows[1]).toMatchObject({ firstBar: 9, columns: 32, firstColumn: 0 });
  });

  it("imagines beats for a song without any", () => {
    const layout = scoreLayout({ beats: [], beatsPerBar: 4, freeTime: [] }, 20);
    expect(layout.rows).toHaveLength(2);
    expect(layout.beats.every((beat) => beat.imagined)).toBe(true);
  });
});

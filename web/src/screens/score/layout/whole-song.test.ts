import { correctedGrid } from "@humming-tide/core/grid";
import { musicAnalysis, steadyBeats } from "@humming-tide/core/testing";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { rowHeight } from "./row-size.ts";
import { scoreLayout } from "./score-layout.ts";
import { wholeSong } from "./whole-song.ts";

const gridOf = (beats: number, beatsPerBar: number) =>
  correctedGrid(musicAnalysis({ beats: steadyBeats(beats, beatsPerBar), durationSeconds: beats / 2 }), []);

describe("a Score with the whole song in sight", () => {
  it("has all its rows in the height, for songs of up to ten minutes", () => {
    fc.assert(
      fc.property(
        // 120 beats a minute; 540 pixels are what a screen of 1280 x 800 leaves.
        fc.integer({ min: 8, max: 1200 }),
        fc.integer({ min: 2, max: 7 }),
        fc.integer({ min: 540, max: 1400 }),
        fc.boolean(),
        (beats, beatsPerBar, height, hasMarkers) => {
          const { layout, size } = wholeSong(gridOf(beats, beatsPerBar), beats / 2, height, hasMarkers);
          expect(layout.rows.length * rowHeight(size)).toBeLessThanOrEqual(height);
          expect(size.pictures).toBeGreaterThanOrEqual(20);
        },
      ),
    );
  });

  it("keeps the usual rows where they fit, and scrolls where nothing does", () => {
    const short = gridOf(64, 4);
    expect(wholeSong(short, 32, 600, false).layout).toEqual(scoreLayout(short, 32));
    const low = wholeSong(gridOf(1200, 4), 600, 100, false);
    expect([low.size.pictures, low.size.wave]).toEqual([20, 6]);
  });

  it("has every beat once, in rows of whole bars, whatever their length", () => {
    const grid = gridOf(240, 3);
    for (const beatsPerRow of [32, 64, 96, 128, 192, 256]) {
      const { rows, beats } = scoreLayout(grid, 120, beatsPerRow);
      expect(rows[0]?.startBeat).toBe(0);
      for (const [i, row] of rows.slice(1).entries()) expect(row.startBeat).toBe(rows[i]?.endBeat);
      expect(rows.at(-1)?.endBeat).toBe(beats.length - 1);
      for (const row of rows.slice(0, -1)) expect((row.endBeat - row.startBeat) % 3).toBe(0);
    }
  });
});

import type { Grid } from "@humming-tide/core/grid";
import { NO_LANES, type RowSize, rowHeight, rowSize } from "./row-size.ts";
import { BEATS_PER_ROW, type ScoreLayout, scoreLayout } from "./score-layout.ts";

/** Rows get longer until all are in sight. */
const LENGTHS = [BEATS_PER_ROW, 64, 96, 128, 192, 256];
/** Lower pictures cannot be told apart. */
const LEAST_PICTURES = 20;
const MOST_PICTURES = 104;
/** Of what the fixed parts of a row leave. */
const WAVE_SHARE = 0.28;
const LEAST_WAVE = 6;
const MOST_WAVE = 56;

export interface WholeSong {
  readonly layout: ScoreLayout;
  readonly size: RowSize;
}

/**
 * The shortest rows with which all of them are in sight at once, as high as they can be then, and
 * without lanes of sound. Where even the longest do not fit, they are as low as may be and scroll.
 * `height`: pixels for all rows. O(beats).
 */
export function wholeSong(grid: Grid, filmSeconds: number, height: number, hasMarkers: boolean): WholeSong {
  const bare = { ...rowSize("small", hasMarkers, NO_LANES), pictures: 0, wave: 0 };
  let layout = scoreLayout(grid, filmSeconds);
  for (const beatsPerRow of LENGTHS) {
    layout = scoreLayout(grid, filmSeconds, beatsPerRow);
    const room = Math.floor(height / layout.rows.length) - rowHeight(bare);
    const wave = Math.max(LEAST_WAVE, Math.min(MOST_WAVE, Math.round(room * WAVE_SHARE)));
    const pictures = Math.min(MOST_PICTURES, room - wave);
    if (pictures >= LEAST_PICTURES) return { layout, size: { ...bare, pictures, wave } };
  }
  return { layout, size: { ...bare, pictures: LEAST_PICTURES, wave: LEAST_WAVE } };
}

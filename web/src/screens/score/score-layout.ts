import { type Grid, indexOfNearestBeat } from "@humming-tide/core/grid";

/**
 * The Score lays a song out like sheet music: a phrase of bars to a row, the same place in the bar always in the same column. Musical time
 * runs evenly: between two beats, time is stretched to the column's width. Where the film reaches a beat or more before the first or behind the
 * last beat, and in songs without any, beats are imagined at the nearest tempo so that the whole film has its place.
 */
export interface ScoreLayout {
  readonly rows: readonly ScoreRow[];
  readonly barsPerRow: number;
  readonly beatsPerBar: number;
  /** All beats with the imagined ones, in order. */
  readonly beats: readonly ScoreBeat[];
  /** Index of the column that the first of `beats` stands in, counted from the start of the first row. */
  readonly firstColumn: number;
}

export interface ScoreBeat {
  readonly seconds: number;
  readonly position: number;
  /** 0 to 1; 0 for imagined ones. */
  readonly confidence: number;
  readonly imagined: boolean;
}

export interface ScoreRow {
  readonly index: number;
  readonly startSeconds: number;
  /** Exclusive. */
  readonly endSeconds: number;
  /** Number of the first whole bar in the row, counted from 1 at the first bar start of the song. */
  readonly firstBar: number;
}

/** A stretch of one row, as shares of its width. */
export interface RowSpan {
  readonly row: number;
  readonly from: number;
  readonly to: number;
}

/** Imagined tempo of songs without a beat. */
const EVEN_SECONDS = 0.5;
/** Eight bars of four fill a row; longer bars get fewer. */
const BEATS_PER_ROW = 32;

export function scoreLayout(grid: Grid, filmSeconds: number): ScoreLayout {
  const { beatsPerBar } = grid;
  const beats = withImaginedBeats(grid, filmSeconds);
  const barsPerRow = Math.max(1, Math.round(BEATS_PER_ROW / beatsPerBar / 4) * 4);
  const columns = barsPerRow * beatsPerBar;
  // The song's first bar start stands at the beginning of a row; what comes before it ends the row above. A song that is over before
  // its first bar start stands by its place in the bar.
  const firstOne = beats.findIndex((beat) => beat.position === 1 && !beat.imagined);
  const firstColumn = firstOne < 0 ? (beats[0]?.position ?? 1) - 1 : (columns - (firstOne % columns)) % columns;
  const rowCount = Math.ceil((firstColumn + beats.length - 1) / columns);
  const firstBarRow = Math.floor((firstColumn + Math.max(0, firstOne)) / columns);
  const rows = Array.from({ length: rowCount }, (_, index): ScoreRow => {
    const startBeat = Math.max(0, index * columns - firstColumn);
    const endBeat = Math.min(beats.length - 1, (index + 1) * columns - firstColumn);
    return {
      index,
      startSeconds: beats[startBeat]!.seconds,
      endSeconds: beats[endBeat]!.seconds,
      firstBar: (index - firstBarRow) * barsPerRow + 1,
    };
  });
  return { rows, barsPerRow, beatsPerBar, beats, firstColumn };
}

function withImaginedBeats(grid: Grid, filmSeconds: number): ScoreBeat[] {
  const real = grid.beats.map((beat): ScoreBeat => ({ ...beat, imagined: false }));
  const step = (a: number, b: number): number =>
    real.length > 1 ? Math.max(0.05, real[b]!.seconds - real[a]!.seconds) : EVEN_SECONDS;
  const beats = real.length > 0 ? real : [{ seconds: 0, position: 1, confidence: 0, imagined: true }];
  const gapBefore = step(0, 1);
  // A breath of less than a beat before the music needs no row of its own: it is shown at the edge of the first.
  while (beats[0]!.seconds > gapBefore) {
    const position = ((beats[0]!.position - 2 + grid.beatsPerBar) % grid.beatsPerBar) + 1;
    beats.unshift({ seconds: beats[0]!.seconds - gapBefore, position, confidence: 0, imagined: true });
  }
  const gapAfter = step(real.length - 2, real.length - 1);
  while (beats.at(-1)!.seconds < filmSeconds - 1e-6) {
    const last = beats.at(-1)!;
    beats.push({
      seconds: last.seconds + gapAfter,
      position: (last.position % grid.beatsPerBar) + 1,
      confidence: 0,
      imagined: true,
    });
  }
  if (beats.length === 1) beats.push({ ...beats[0]!, seconds: beats[0]!.seconds + gapAfter });
  return beats;
}

/** Column of a time, counted from the start of the first row; fractional between beats. O(log beats). */
function columnAt(layout: ScoreLayout, seconds: number): number {
  const { beats } = layout;
  let index = indexOfNearestBeat(beats, seconds);
  if (beats[index]!.seconds > seconds) index--;
  index = Math.max(0, Math.min(beats.length - 2, index));
  const [left, right] = [beats[index]!, beats[index + 1]!];
  const share = (seconds - left.seconds) / (right.seconds - left.seconds);
  return layout.firstColumn + index + Math.max(0, Math.min(1, share));
}

/** Row and share of its width at a time. A time on a row's end belongs to the next row. */
export function placeAt(layout: ScoreLayout, seconds: number): { row: number; share: number } {
  const columns = layout.barsPerRow * layout.beatsPerBar;
  const column = columnAt(layout, seconds);
  const row = Math.min(layout.rows.length - 1, Math.floor(column / columns + 1e-9));
  return { row, share: column / columns - row };
}

/** The time at a row and share of its width; drawn to the ends of the song. */
export function timeAt(layout: ScoreLayout, row: number, share: number): number {
  const columns = layout.barsPerRow * layout.beatsPerBar;
  const column = (row + share) * columns - layout.firstColumn;
  const { beats } = layout;
  const index = Math.max(0, Math.min(beats.length - 2, Math.floor(column)));
  const [left, right] = [beats[index]!, beats[index + 1]!];
  return left.seconds + Math.max(0, Math.min(1, column - index)) * (right.seconds - left.seconds);
}

/** The pieces of a stretch of time, one per row that it touches. */
export function spansBetween(layout: ScoreLayout, fromSeconds: number, toSeconds: number): RowSpan[] {
  const from = placeAt(layout, fromSeconds);
  const to = placeAt(layout, toSeconds);
  if (from.row === to.row) return [{ row: from.row, from: from.share, to: to.share }];
  const spans: RowSpan[] = [{ row: from.row, from: from.share, to: 1 }];
  for (let row = from.row + 1; row < to.row; row++) spans.push({ row, from: 0, to: 1 });
  if (to.share > 1e-6) spans.push({ row: to.row, from: 0, to: to.share });
  return spans;
}

/** Beats of a row with the share of its width at which each stands, the row's own end left out. */
export function beatsOfRow(layout: ScoreLayout, row: number): { beat: ScoreBeat; index: number; share: number }[] {
  const columns = layout.barsPerRow * layout.beatsPerBar;
  const first = Math.max(0, row * columns - layout.firstColumn);
  const last = Math.min(layout.beats.length, (row + 1) * columns - layout.firstColumn);
  return Array.from({ length: Math.max(0, last - first) }, (_, i) => {
    const index = first + i;
    return { beat: layout.beats[index]!, index, share: (layout.firstColumn + index) / columns - row };
  });
}

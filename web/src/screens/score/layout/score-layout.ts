import { type Grid, indexOfNearestBeat } from "@humming-tide/core/grid";
import { itemAt, lastOf } from "@humming-tide/core/presence";

/**
 * The Score lays a song out like sheet music: a phrase of bars to a row, the same place in the bar
 * always in the same column. Musical time runs evenly: between two beats, time is stretched to the
 * column's width. Where the beat changes its bars a row ends early, so that the next bar begins at
 * the left again. An upbeat stands before the first bar: that row has a bar more, and its columns
 * are narrower. Where there are no beats, some are imagined at the nearest tempo, so that the whole
 * film has its place. That is so in free time, and before the first and behind the last beat.
 */
export interface ScoreLayout {
  readonly rows: readonly ScoreRow[];
  /** All beats with the imagined ones, in order; the last one ends the last row. */
  readonly beats: readonly ScoreBeat[];
}

export interface ScoreBeat {
  readonly seconds: number;
  /** In the bar, from 1; 0 is unknown. */
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
  /**
   * Number of the first bar in the row, counted from 1 at the first bar start of the song; less
   * before it.
   */
  readonly firstBar: number;
  /** Of most bars in the row; a last one may have another count. */
  readonly beatsPerBar: number;
  /** How many beats would fill its width. */
  readonly columns: number;
  /** Column of its first beat: 0 but in rows before the first bar. */
  readonly firstColumn: number;
  /** Indices into the layout's beats; endBeat exclusive, it begins the next row. */
  readonly startBeat: number;
  readonly endBeat: number;
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
export const BEATS_PER_ROW = 32;
/** A bar that nobody counted is divided like its neighbours. */
const LONGEST_BAR = 15;
/** A step this many times as long as the one before it is no beat: the music runs free there. */
const FREE_STEP = 2.5;

/** `beatsPerRow`: as near to this many as whole phrases of four bars come. O(beats). */
export function scoreLayout(grid: Grid, filmSeconds: number, beatsPerRow = BEATS_PER_ROW): ScoreLayout {
  const beats = withImaginedBeats(grid, filmSeconds);
  const columnsFor = (beatsPerBar: number): number =>
    Math.max(1, Math.round(beatsPerRow / beatsPerBar / 4) * 4) * beatsPerBar;
  return { beats, rows: rowsOf(beats, grid.beatsPerBar, columnsFor) };
}

function rowsOf(
  beats: readonly ScoreBeat[],
  beatsPerBar: number,
  columnsFor: (beatsPerBar: number) => number,
): ScoreRow[] {
  const rows: ScoreRow[] = [];
  const end = beats.length - 1;
  const firstOne = beats.findIndex((beat) => beat.position === 1 && !beat.imagined);
  // The song's first bar start stands at the beginning of a row; what comes before it ends the row
  // above. A song that is over before its first bar start stands by its place in the bar.
  const bars = barsOf(beats, Math.max(0, firstOne), end, beatsPerBar);
  const usual = bars[0] && bars.length > 1 ? bars[0].count : beatsPerBar;
  // An upbeat stands before the first bar, in a bar's width of its own; a longer beginning has rows
  // of its own.
  const hasUpbeat = firstOne > 0 && firstOne <= usual;
  const add = (row: Omit<ScoreRow, "index" | "startSeconds" | "endSeconds">): void => {
    const [startSeconds, endSeconds] = [itemAt(beats, row.startBeat).seconds, itemAt(beats, row.endBeat).seconds];
    rows.push({ ...row, index: rows.length, startSeconds, endSeconds });
  };
  if (firstOne > 0 && !hasUpbeat) {
    const columns = columnsFor(usual);
    const count = Math.ceil(firstOne / columns);
    for (let row = 0; row < count; row++) {
      const endBeat = firstOne - (count - 1 - row) * columns;
      const startBeat = Math.max(0, endBeat - columns);
      const firstBar = 1 - Math.ceil((firstOne - startBeat) / usual);
      add({ firstBar, beatsPerBar: usual, columns, firstColumn: columns - (endBeat - startBeat), startBeat, endBeat });
    }
  }
  const offset = firstOne < 0 ? Math.max(0, itemAt(beats, 0).position - 1) : 0;
  const last = bars.length - 1;
  const widthOf = (bar: number): number => itemAt(bars, bar).count + (bar === 0 ? offset : 0);
  for (let at = 0; at <= last; ) {
    const before = rows.at(-1)?.beatsPerBar;
    // One bar alone of another length, or one that the film's end cuts off, is no change of meter.
    const isAlone = at === last || (at + 1 < last && widthOf(at + 1) !== widthOf(at));
    const meter = isAlone ? (before ?? (at + 1 < last ? widthOf(at + 1) : beatsPerBar)) : widthOf(at);
    const columns = columnsFor(meter);
    let [next, used, isOver] = [at, 0, false];
    while (next <= last && !isOver) {
      const width = widthOf(next);
      const isOther = width !== meter && next < last;
      const changes = isOther && next > at && widthOf(next + 1) === width;
      if (next > at && (used + width > columns || changes)) break;
      used += width;
      // Behind a bar of another length the columns would be wrong: the row ends with it.
      isOver = isOther;
      next++;
    }
    const upbeat = at === 0 && hasUpbeat ? Math.ceil(firstOne / meter) * meter : 0;
    add({
      firstBar: at + 1,
      beatsPerBar: meter,
      columns: Math.max(columns, used) + upbeat,
      firstColumn: upbeat > 0 ? upbeat - firstOne : at === 0 ? offset : 0,
      startBeat: upbeat > 0 ? 0 : itemAt(bars, at).start,
      endBeat: bars[next]?.start ?? end,
    });
    at = next;
  }
  return rows;
}

interface Bar {
  readonly start: number;
  readonly count: number;
}

/**
 * Beats from one to the next; `end` exclusive. Bars that nobody counted are divided into usual
 * ones.
 */
function barsOf(beats: readonly ScoreBeat[], from: number, end: number, beatsPerBar: number): Bar[] {
  const bars: Bar[] = [];
  let start = from;
  for (let i = from + 1; i <= end; i++) {
    const tooLong = i - start >= Math.max(LONGEST_BAR, beatsPerBar);
    if (i < end && itemAt(beats, i).position !== 1 && !tooLong) continue;
    if (tooLong && beatsPerBar < i - start) {
      bars.push({ start, count: beatsPerBar });
      start += beatsPerBar;
      i = start;
      continue;
    }
    bars.push({ start, count: i - start });
    start = i;
  }
  return bars;
}

function withImaginedBeats(grid: Grid, filmSeconds: number): ScoreBeat[] {
  // What the music goes on to play behind the film's end has no place in its Score.
  const heard = grid.beats.filter((beat) => beat.seconds <= filmSeconds);
  const imagined = (seconds: number, position: number): ScoreBeat => ({
    seconds,
    position,
    confidence: 0,
    imagined: true,
  });
  const stepAt = (index: number): number =>
    heard.length > 1
      ? Math.max(
          0.05,
          itemAt(heard, Math.max(1, Math.min(heard.length - 1, index))).seconds -
            itemAt(heard, Math.max(0, Math.min(heard.length - 2, index - 1))).seconds,
        )
      : EVEN_SECONDS;
  const beats: ScoreBeat[] = [];
  for (const [i, beat] of heard.entries()) {
    const before = heard[i - 1];
    if (before) {
      const gap = beat.seconds - before.seconds;
      const step = stepAt(i - 1 > 0 ? i - 1 : i + 1);
      const steps = gap > FREE_STEP * step ? Math.round(gap / step) : 1;
      for (let k = 1; k < steps; k++) {
        const position = before.position > 0 ? ((before.position - 1 + k) % grid.beatsPerBar) + 1 : 0;
        beats.push(imagined(before.seconds + (k * gap) / steps, position));
      }
    }
    beats.push({ ...beat, imagined: false });
  }
  if (beats.length === 0) beats.push(imagined(0, 1));
  const gapBefore = stepAt(1);
  // A breath of less than a beat before the music needs no row of its own: it is shown at the edge
  // of the first.
  const first = itemAt(beats, 0);
  const lead: ScoreBeat[] = [];
  for (let k = 1; first.seconds - (k - 1) * gapBefore > gapBefore; k++) {
    const position = ((((first.position - 1 - k) % grid.beatsPerBar) + grid.beatsPerBar) % grid.beatsPerBar) + 1;
    lead.unshift(imagined(first.seconds - k * gapBefore, position));
  }
  beats.unshift(...lead);
  const gapAfter = stepAt(heard.length - 1);
  while (lastOf(beats).seconds < filmSeconds - 1e-6) {
    const last = lastOf(beats);
    beats.push(imagined(last.seconds + gapAfter, (last.position % grid.beatsPerBar) + 1));
  }
  if (beats.length === 1) beats.push(imagined(itemAt(beats, 0).seconds + gapAfter, 2));
  return beats;
}

/** Index of the beat at or before a time, from 0 to that of the last but one. O(log beats). */
function beatBefore({ beats }: ScoreLayout, seconds: number): number {
  const nearest = indexOfNearestBeat(beats, seconds);
  return Math.max(0, Math.min(beats.length - 2, itemAt(beats, nearest).seconds > seconds ? nearest - 1 : nearest));
}

/**
 * Row and share of its width at a time. A time on a row's end belongs to the next row. O(log beats
 * + log rows).
 */
export function placeAt(layout: ScoreLayout, seconds: number): { row: number; share: number } {
  const index = beatBefore(layout, seconds);
  const [left, right] = [itemAt(layout.beats, index), itemAt(layout.beats, index + 1)];
  const within = Math.max(0, Math.min(1, (seconds - left.seconds) / (right.seconds - left.seconds)));
  let [low, high] = [0, layout.rows.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (itemAt(layout.rows, middle).startBeat <= index) low = middle;
    else high = middle - 1;
  }
  const row = itemAt(layout.rows, low);
  return { row: low, share: (row.firstColumn + index - row.startBeat + within) / row.columns };
}

/**
 * The time at a row and share of its width; outside what the row plays, that of its nearest end.
 */
export function timeAt(layout: ScoreLayout, row: number, share: number): number {
  const { columns, firstColumn, startBeat, endBeat } = itemAt(layout.rows, row);
  const column = Math.max(0, Math.min(endBeat - startBeat, share * columns - firstColumn));
  const index = Math.min(endBeat - 1, startBeat + Math.floor(column));
  const [left, right] = [itemAt(layout.beats, index), itemAt(layout.beats, index + 1)];
  return left.seconds + (startBeat + column - index) * (right.seconds - left.seconds);
}

/** Shares of a row's width between which it plays. */
export const rowEdges = ({ columns, firstColumn, startBeat, endBeat }: ScoreRow): [from: number, to: number] => [
  firstColumn / columns,
  (firstColumn + endBeat - startBeat) / columns,
];

/** The pieces of a stretch of time, one per row that it touches. */
export function spansBetween(layout: ScoreLayout, fromSeconds: number, toSeconds: number): RowSpan[] {
  const from = placeAt(layout, fromSeconds);
  const to = placeAt(layout, toSeconds);
  if (from.row === to.row) return [{ row: from.row, from: from.share, to: to.share }];
  const spans: RowSpan[] = [{ row: from.row, from: from.share, to: rowEdges(itemAt(layout.rows, from.row))[1] }];
  for (let row = from.row + 1; row < to.row; row++) {
    const [start, end] = rowEdges(itemAt(layout.rows, row));
    spans.push({ row, from: start, to: end });
  }
  const start = rowEdges(itemAt(layout.rows, to.row))[0];
  if (to.share > start + 1e-6) spans.push({ row: to.row, from: start, to: to.share });
  return spans;
}

/** Beats of a row with the share of its width at which each stands, the row's own end left out. */
export function beatsOfRow(layout: ScoreLayout, row: number): { beat: ScoreBeat; index: number; share: number }[] {
  const { columns, firstColumn, startBeat, endBeat } = itemAt(layout.rows, row);
  return layout.beats.slice(startBeat, endBeat).map((beat, i) => ({
    beat,
    index: startBeat + i,
    share: (firstColumn + i) / columns,
  }));
}

/** The real beat nearest to a time; where none is real, the nearest imagined one. O(beats). */
export function nearestRealBeat({ beats }: ScoreLayout, seconds: number): ScoreBeat {
  const real = beats.filter((beat) => !beat.imagined);
  const usable = real.length > 0 ? real : beats;
  return itemAt(usable, indexOfNearestBeat(usable, seconds));
}

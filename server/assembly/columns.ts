import { WHOLE } from "./samples";

/** Shares of two neighbours have fourteen binary places: their sum fits. */
export const PAIR_BITS: i32 = 14;
const PAIR: i32 = 1 << PAIR_BITS;

/**
 * For each column that is written: where its left neighbour lies in a row of fine samples (bytes),
 * and the shares of both neighbours.
 */
let offsets: usize = 0;
let shares: usize = 0;
/** How much of each column lies inside of what is drawn, 0 to WHOLE. */
let covers: usize = 0;
/** The same times the row's own share. */
let rowShares: usize = 0;
let room: i32 = 0;

// @ts-ignore: decorator
@inline
export function offsetsAt(column: i32): usize {
  return offsets + 4 * column;
}

// @ts-ignore: decorator
@inline
export function sharesAt(column: i32): usize {
  return shares + 4 * column;
}

// @ts-ignore: decorator
@inline
export function rowSharesAt(column: i32): usize {
  return rowShares + 2 * column;
}

function makeRoom(count: i32): void {
  if (count <= room) return;
  if (room > 0) {
    heap.free(offsets);
    heap.free(shares);
    heap.free(covers);
    heap.free(rowShares);
  }
  room = count;
  // Whole vectors are read and written at the end.
  offsets = heap.alloc(4 * (count + 8));
  shares = heap.alloc(4 * (count + 8));
  covers = heap.alloc(2 * (count + 8));
  rowShares = heap.alloc(2 * (count + 8));
}

/** Where the sample before a place lies, kept so that the one after it is inside as well. */
// @ts-ignore: decorator
@inline
export function sampleBefore(place: f64, first: i32, end: i32): i32 {
  return max(first, min(<i32>Math.floor(place), max(first, end - 2)));
}

/** The share of the sample after it, 0 to 1. */
// @ts-ignore: decorator
@inline
export function shareAfter(place: f64, before: i32, first: i32, end: i32): f64 {
  return end - first < 2 ? 0 : max<f64>(0, min<f64>(1, place - <f64>before));
}

/**
 * Column `x` of `from` to `end` is read at `origin + x * step` of the source, whose samples `first`
 * to `sourceEnd` count; `bufferFirst` is the first of the row buffer.
 */
export function placeColumns(
  from: i32,
  end: i32,
  origin: f64,
  step: f64,
  first: i32,
  sourceEnd: i32,
  bufferFirst: i32,
): void {
  makeRoom(end - from);
  for (let x = from; x < end; x++) {
    const place = origin + <f64>x * step;
    const before = sampleBefore(place, first, sourceEnd);
    const after = <i32>Math.round(shareAfter(place, before, first, sourceEnd) * <f64>PAIR);
    store<i32>(offsetsAt(x - from), 2 * (before - bufferFirst));
    store<i32>(sharesAt(x - from), (PAIR - after) | (after << 16));
  }
  // Whole vectors are read at the end; what they find beyond the last column only has to be there.
  memory.fill(offsetsAt(end - from), 0, 32);
}

/** Less of a pixel is none: places are computed, and a hair is not meant. */
export const HAIR: f64 = 1.0 / 1024.0;

/** How much of the pixel from `at` on lies between two edges, 0 to 1. */
export function cover(at: i32, low: f64, high: f64): f64 {
  const share = min<f64>(<f64>at + 1, high) - max<f64>(<f64>at, low);
  return share > 1 - HAIR ? 1 : share < HAIR ? 0 : share;
}

/** Returns whether every column lies wholly inside. */
export function coverColumns(from: i32, end: i32, low: f64, high: f64): bool {
  makeRoom(end - from);
  let whole = true;
  for (let x = from; x < end; x++) {
    const share = cover(x, low, high);
    if (share < 1) whole = false;
    store<i16>(covers + 2 * (x - from), <i16>Math.round(share * <f64>WHOLE));
  }
  return whole;
}

/** The columns' shares in a row that is seen by a share, 0 to 1. */
export function shareColumns(count: i32, share: f64): void {
  const part = i16x8.splat(<i16>Math.round(share * <f64>WHOLE));
  const wholly = share >= 1;
  for (let i = 0; i < count; i += 8) {
    const own = v128.load(covers + 2 * i);
    v128.store(rowSharesAt(i), wholly ? own : i16x8.q15mulr_sat_s(own, part));
  }
}

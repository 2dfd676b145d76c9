import {
  cover,
  coverColumns,
  HAIR,
  offsetsAt,
  PAIR_BITS,
  placeColumns,
  rowSharesAt,
  sampleBefore,
  shareAfter,
  shareColumns,
  sharesAt,
} from "./columns";
import { between, FINE_BITS, loadFine, mixRows, storeFine, WHOLE } from "./samples";

const PAIR_ROUNDING: i32 = 1 << (PAIR_BITS - 1);

/** Two rows of fine samples: of the image, and of its alpha. */
let imageRow: usize = 0;
let alphaRow: usize = 0;
let rowRoom: i32 = 0;

function makeRowRoom(count: i32): void {
  if (count <= rowRoom) return;
  if (rowRoom > 0) {
    heap.free(imageRow);
    heap.free(alphaRow);
  }
  rowRoom = count;
  // Whole vectors are written at the end.
  imageRow = heap.alloc(2 * (count + 8));
  alphaRow = heap.alloc(2 * (count + 8));
}

/** Four columns of a row of fine samples, each between its two neighbours, as 32-bit numbers. */
// @ts-ignore: decorator
@inline
function fourColumns(row: usize, column: i32): v128 {
  const at = offsetsAt(column);
  let pairs = v128.load_splat<i32>(row + load<i32>(at));
  pairs = v128.load_lane<i32>(row + load<i32>(at, 4), pairs, 1);
  pairs = v128.load_lane<i32>(row + load<i32>(at, 8), pairs, 2);
  pairs = v128.load_lane<i32>(row + load<i32>(at, 12), pairs, 3);
  const sums = i32x4.dot_i16x8_s(pairs, v128.load(sharesAt(column)));
  return i32x4.shr_s(i32x4.add(sums, i32x4.splat(PAIR_ROUNDING)), PAIR_BITS);
}

// @ts-ignore: decorator
@inline
function eightColumns(row: usize, column: i32): v128 {
  return i16x8.narrow_i32x4_s(fourColumns(row, column), fourColumns(row, column + 4));
}

/** Fine alpha, 0 to 32,640, as a share. */
// @ts-ignore: decorator
@inline
function asShare(fineAlpha: v128): v128 {
  return i16x8.add_sat_s(fineAlpha, i16x8.shr_s(fineAlpha, 8));
}

/**
 * What is below, the image and the shares of both become one. `premultiplied` images carry their
 * alpha in their samples already.
 */
// @ts-ignore: decorator
@inline
function lay(below: v128, image: v128, alpha: v128, share: v128): v128 {
  const gone = i16x8.q15mulr_sat_s(below, asShare(alpha));
  return i16x8.add_sat_s(below, i16x8.q15mulr_sat_s(i16x8.sub_sat_s(image, gone), share));
}

/** The last columns of a row, which do not fill a vector, are drawn into a vector beside it. */
const spare = memory.data(16, 16);

/**
 * Draws a part of one plane onto another, scaled between neighbouring samples (bilinear). The part
 * `sourceX` to `sourceX + sourceWidth` and so on of the source comes to lie on `x` to `x + width`
 * and so on; only what lies between `left`, `top`, `right` and `bottom` is drawn, a pixel that lies
 * inside by a part by that part. All places are in samples of their plane and may lie between them;
 * the first sample's middle is at 0.5. `alphaPlane`: 0 for what is opaque, else of the source's
 * size, and the source's samples are premultiplied. `share` 0 to 1.
 */
export function drawPlane(
  plane: usize,
  stride: i32,
  source: usize,
  alphaPlane: usize,
  sourceStride: i32,
  sourceX: f64,
  sourceY: f64,
  sourceWidth: f64,
  sourceHeight: f64,
  x: f64,
  y: f64,
  width: f64,
  height: f64,
  left: f64,
  top: f64,
  right: f64,
  bottom: f64,
  share: f64,
): void {
  left = max<f64>(left, x);
  top = max<f64>(top, y);
  right = min<f64>(right, x + width);
  bottom = min<f64>(bottom, y + height);
  const fromX = <i32>Math.floor(left);
  const endX = <i32>Math.ceil(right);
  const fromY = <i32>Math.floor(top);
  const endY = <i32>Math.ceil(bottom);
  const count = endX - fromX;
  if (count <= 0 || endY <= fromY || share <= 0) return;

  // A sample outside of the part that is shown is as the nearest one inside.
  const firstX = <i32>Math.floor(sourceX + HAIR);
  const endSourceX = <i32>Math.ceil(sourceX + sourceWidth - HAIR);
  const firstY = <i32>Math.floor(sourceY + HAIR);
  const endSourceY = <i32>Math.ceil(sourceY + sourceHeight - HAIR);
  const stepX = sourceWidth / width;
  const stepY = sourceHeight / height;
  const originX = (0.5 - x) * stepX + sourceX - 0.5;
  const originY = (0.5 - y) * stepY + sourceY - 0.5;
  const wholeColumns = coverColumns(fromX, endX, left, right);

  // Laid on sample by sample, nothing has to be scaled.
  const asItIs = stepX == 1 && stepY == 1 && originX == Math.floor(originX) && originY == Math.floor(originY);
  const bufferFirst = sampleBefore(originX + <f64>fromX * stepX, firstX, endSourceX);
  const bufferCount = sampleBefore(originX + <f64>(endX - 1) * stepX, firstX, endSourceX) + 2 - bufferFirst;
  if (!asItIs) {
    makeRowRoom(bufferCount);
    placeColumns(fromX, endX, originX, stepX, firstX, endSourceX, bufferFirst);
  }

  let sharedBy: f64 = -1;
  for (let row = fromY; row < endY; row++) {
    const to = plane + row * stride + fromX;
    const rowShare = share * cover(row, top, bottom);
    if (rowShare <= 0) continue;
    const opaque = wholeColumns && rowShare >= 1 && alphaPlane == 0;
    if (!opaque && rowShare != sharedBy) {
      shareColumns(count, rowShare);
      sharedBy = rowShare;
    }
    const place = originY + <f64>row * stepY;
    const upper = sampleBefore(place, firstY, endSourceY);
    if (asItIs) {
      const at = <i32>place * sourceStride + <i32>originX + fromX;
      layRowAsItIs(to, source + at, alphaPlane == 0 ? 0 : alphaPlane + at, count, opaque);
      continue;
    }
    const lower = min(upper + 1, endSourceY - 1);
    const below = <i32>Math.round(shareAfter(place, upper, firstY, endSourceY) * <f64>WHOLE);
    const upperAt = upper * sourceStride + bufferFirst;
    const lowerAt = lower * sourceStride + bufferFirst;
    mixRows(source + upperAt, source + lowerAt, below, bufferCount, imageRow);
    if (alphaPlane != 0) mixRows(alphaPlane + upperAt, alphaPlane + lowerAt, below, bufferCount, alphaRow);
    layRow(to, count, alphaPlane != 0, opaque);
  }
}

function layRow(to: usize, count: i32, hasAlpha: bool, opaque: bool): void {
  let i = 0;
  if (opaque) {
    for (; i + 8 <= count; i += 8) storeFine(to + i, eightColumns(imageRow, i));
  } else if (hasAlpha) {
    for (; i + 8 <= count; i += 8) {
      const laid = lay(loadFine(to + i), eightColumns(imageRow, i), eightColumns(alphaRow, i), v128.load(rowSharesAt(i)));
      storeFine(to + i, laid);
    }
  } else {
    for (; i + 8 <= count; i += 8) {
      storeFine(to + i, between(loadFine(to + i), eightColumns(imageRow, i), v128.load(rowSharesAt(i))));
    }
  }
  if (i == count) return;
  memory.copy(spare, to + i, count - i);
  const image = eightColumns(imageRow, i);
  const drawn = opaque
    ? image
    : hasAlpha
      ? lay(loadFine(spare), image, eightColumns(alphaRow, i), v128.load(rowSharesAt(i)))
      : between(loadFine(spare), image, v128.load(rowSharesAt(i)));
  storeFine(spare, drawn);
  memory.copy(to + i, spare, count - i);
}

function layRowAsItIs(to: usize, from: usize, alphaFrom: usize, count: i32, opaque: bool): void {
  if (opaque) {
    memory.copy(to, from, count);
    return;
  }
  let i = 0;
  for (; i + 8 <= count; i += 8) storeFine(to + i, laidAsItIs(to + i, from, alphaFrom, i));
  if (i == count) return;
  memory.copy(spare, to + i, count - i);
  storeFine(spare, laidAsItIs(spare, from, alphaFrom, i));
  memory.copy(to + i, spare, count - i);
}

// @ts-ignore: decorator
@inline
function laidAsItIs(to: usize, from: usize, alphaFrom: usize, column: i32): v128 {
  const share = v128.load(rowSharesAt(column));
  return alphaFrom == 0
    ? between(loadFine(to), loadFine(from + column), share)
    : lay(loadFine(to), loadFine(from + column), loadFine(alphaFrom + column), share);
}

/**
 * Lays one value on what lies between `left`, `top`, `right` and `bottom`, by a share of 0 to 1.
 */
export function fillPlane(
  plane: usize,
  stride: i32,
  value: i32,
  left: f64,
  top: f64,
  right: f64,
  bottom: f64,
  share: f64,
): void {
  const fromX = <i32>Math.floor(left);
  const endX = <i32>Math.ceil(right);
  const count = endX - fromX;
  if (count <= 0 || share <= 0) return;
  const wholeColumns = coverColumns(fromX, endX, left, right);
  const fine = i16x8.splat(<i16>(value << FINE_BITS));
  let sharedBy: f64 = -1;
  for (let row = <i32>Math.floor(top), endY = <i32>Math.ceil(bottom); row < endY; row++) {
    const to = plane + row * stride + fromX;
    const rowShare = share * cover(row, top, bottom);
    if (wholeColumns && rowShare >= 1) {
      memory.fill(to, <u8>value, count);
      continue;
    }
    if (rowShare != sharedBy) {
      shareColumns(count, rowShare);
      sharedBy = rowShare;
    }
    let i = 0;
    for (; i + 8 <= count; i += 8) storeFine(to + i, between(loadFine(to + i), fine, v128.load(rowSharesAt(i))));
    if (i == count) continue;
    memory.copy(spare, to + i, count - i);
    storeFine(spare, between(loadFine(spare), fine, v128.load(rowSharesAt(i))));
    memory.copy(to + i, spare, count - i);
  }
}

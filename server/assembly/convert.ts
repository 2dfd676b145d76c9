/**
 * RGBA to the planes of 4:2:0 video after ITU-R BT.709, limited range (16 to 235, and 16 to 240
 * about 128). Colour differences belong to the middle of each 2 x 2 block, the mean of it. Weights
 * have fifteen binary places. The offsets are weights of alpha: what is premultiplied stays so.
 */
const BITS: i32 = 15;
const ONE: f64 = 32768;
const KR: f64 = 0.2126;
const KB: f64 = 0.0722;
const KG: f64 = 1 - KR - KB;
const LUMA_SCALE: f64 = (ONE * 219) / 255;
const CHROMA_SCALE: f64 = (ONE * 112) / 255;
const ROUND_ONE: i32 = 1 << (BITS - 1);
/** Four pixels are summed. */
const ROUND_FOUR: i32 = 1 << (BITS + 1);

// @ts-ignore: decorator
@inline
function weights(red: f64, green: f64, blue: f64, alpha: f64): v128 {
  let four = i16x8.splat(<i16>Math.round(red));
  four = i16x8.replace_lane(four, 1, <i16>Math.round(green));
  four = i16x8.replace_lane(four, 2, <i16>Math.round(blue));
  four = i16x8.replace_lane(four, 3, <i16>Math.round(alpha));
  return v128.shuffle<i64>(four, four, 0, 0);
}

/** Of eight numbers, each pair's sum. */
// @ts-ignore: decorator
@inline
function pairSums(a: v128, b: v128): v128 {
  return i32x4.add(v128.shuffle<i32>(a, b, 0, 2, 4, 6), v128.shuffle<i32>(a, b, 1, 3, 5, 7));
}

// @ts-ignore: decorator
@inline
function lumaOfFour(rgba: usize, weight: v128): v128 {
  const pixels = v128.load(rgba);
  const sums = pairSums(
    i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(pixels), weight),
    i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(pixels), weight),
  );
  return i32x4.shr_s(i32x4.add(sums, i32x4.splat(ROUND_ONE)), BITS);
}

/**
 * `rgba` may be read up to 28 bytes beyond its end. `luma` has room for seven samples more than
 * there are pixels.
 */
function writeLuma(rgba: usize, count: i32, luma: usize): void {
  const weight = weights(LUMA_SCALE * KR, LUMA_SCALE * KG, LUMA_SCALE * KB, (ONE * 16) / 255);
  for (let i = 0; i < count; i += 8) {
    const eight = i16x8.narrow_i32x4_s(lumaOfFour(rgba + 4 * i, weight), lumaOfFour(rgba + 4 * i + 16, weight));
    v128.store_lane<u64>(luma + i, i8x16.narrow_i16x8_u(eight, eight), 0);
  }
}

/** Two sums of four pixels each: of red, green, blue and alpha. */
// @ts-ignore: decorator
@inline
function blockSums(upper: usize, lower: usize): v128 {
  const a = v128.load(upper);
  const b = v128.load(lower);
  const left = i16x8.add(i16x8.extend_low_i8x16_u(a), i16x8.extend_low_i8x16_u(b));
  const right = i16x8.add(i16x8.extend_high_i8x16_u(a), i16x8.extend_high_i8x16_u(b));
  return i16x8.add(v128.shuffle<i64>(left, right, 0, 2), v128.shuffle<i64>(left, right, 1, 3));
}

// @ts-ignore: decorator
@inline
function storeFour(to: usize, sums: v128): void {
  const values = i32x4.shr_s(i32x4.add(sums, i32x4.splat(ROUND_FOUR)), BITS + 2);
  const four = i16x8.narrow_i32x4_s(values, values);
  v128.store_lane<u32>(to, i8x16.narrow_i16x8_u(four, four), 0);
}

/** The last pixels of two rows, filled up to eight with the very last one. */
const upperEnd = memory.data(32, 16);
const lowerEnd = memory.data(32, 16);
const blueEnd = memory.data(4, 4);
const redEnd = memory.data(4, 4);

function copyEnd(row: usize, from: i32, width: i32, to: usize): void {
  for (let i = 0; i < 8; i++) store<u32>(to + 4 * i, load<u32>(row + 4 * min(from + i, width - 1)));
}

function writeChroma(rgba: usize, width: i32, height: i32, blue: usize, red: usize): void {
  const blueWeight = weights(
    (-CHROMA_SCALE * KR) / (1 - KB),
    (-CHROMA_SCALE * KG) / (1 - KB),
    CHROMA_SCALE,
    (ONE * 128) / 255,
  );
  const redWeight = weights(
    CHROMA_SCALE,
    (-CHROMA_SCALE * KG) / (1 - KR),
    (-CHROMA_SCALE * KB) / (1 - KR),
    (ONE * 128) / 255,
  );
  const columns = (width + 1) >> 1;
  for (let y = 0; y < height; y += 2) {
    const upper = rgba + 4 * y * width;
    const lower = rgba + 4 * min(y + 1, height - 1) * width;
    let x = 0;
    for (; x + 8 <= width; x += 8) {
      const a = blockSums(upper + 4 * x, lower + 4 * x);
      const b = blockSums(upper + 4 * x + 16, lower + 4 * x + 16);
      storeFour(blue + (x >> 1), pairSums(i32x4.dot_i16x8_s(a, blueWeight), i32x4.dot_i16x8_s(b, blueWeight)));
      storeFour(red + (x >> 1), pairSums(i32x4.dot_i16x8_s(a, redWeight), i32x4.dot_i16x8_s(b, redWeight)));
    }
    if (x < width) {
      copyEnd(upper, x, width, upperEnd);
      copyEnd(lower, x, width, lowerEnd);
      const a = blockSums(upperEnd, lowerEnd);
      const b = blockSums(upperEnd + 16, lowerEnd + 16);
      storeFour(blueEnd, pairSums(i32x4.dot_i16x8_s(a, blueWeight), i32x4.dot_i16x8_s(b, blueWeight)));
      storeFour(redEnd, pairSums(i32x4.dot_i16x8_s(a, redWeight), i32x4.dot_i16x8_s(b, redWeight)));
      memory.copy(blue + (x >> 1), blueEnd, columns - (x >> 1));
      memory.copy(red + (x >> 1), redEnd, columns - (x >> 1));
    }
    blue += columns;
    red += columns;
  }
}

/**
 * Premultiplied RGBA of `width` x `height` pixels to three planes without gaps between rows; those
 * of colour are half as wide and high, rounded up. `rgba` and every plane need 32 bytes of room
 * behind their end.
 */
export function planesOfRgba(rgba: usize, width: i32, height: i32, luma: usize, blue: usize, red: usize): void {
  writeLuma(rgba, width * height, luma);
  writeChroma(rgba, width, height, blue, red);
}

/** The alpha of RGBA as planes of both sizes. */
export function alphaOfRgba(rgba: usize, width: i32, height: i32, full: usize, half: usize): void {
  for (let i = 0; i < width * height; i++) store<u8>(full + i, load<u8>(rgba + 4 * i + 3));
  halvePlane(full, width, height, half);
}

/** Every sample is the mean of a 2 x 2 block; at an odd end, of what there is. */
export function halvePlane(from: usize, width: i32, height: i32, to: usize): void {
  const columns = (width + 1) >> 1;
  for (let y = 0; y < height; y += 2) {
    const upper = from + y * width;
    const lower = from + min(y + 1, height - 1) * width;
    let x = 0;
    for (; x + 16 <= width; x += 16) {
      const sums = i16x8.add(
        i16x8.extadd_pairwise_i8x16_u(v128.load(upper + x)),
        i16x8.extadd_pairwise_i8x16_u(v128.load(lower + x)),
      );
      const means = i16x8.shr_u(i16x8.add(sums, i16x8.splat(2)), 2);
      v128.store_lane<u64>(to + (x >> 1), i8x16.narrow_i16x8_u(means, means), 0);
    }
    for (; x < width; x += 2) {
      const next = min(x + 1, width - 1);
      const sum =
        <i32>load<u8>(upper + x) + <i32>load<u8>(upper + next) + <i32>load<u8>(lower + x) + <i32>load<u8>(lower + next);
      store<u8>(to + (x >> 1), <u8>((sum + 2) >> 2));
    }
    to += columns;
  }
}

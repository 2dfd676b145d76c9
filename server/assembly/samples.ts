/**
 * Samples are bytes, 0 to 255. Between reading and writing they keep seven binary places more
 * ("fine": 0 to 32,640), so that what is scaled and laid over each other is rounded once, at the
 * end. Shares have fifteen binary places: 32,767 stands for all.
 */
export const FINE_BITS: i32 = 7;
const ROUNDING: i16 = 64; // half of a sample
export const WHOLE: i32 = 32767;

/** Eight samples from memory, fine. */
// @ts-ignore: decorator
@inline
export function loadFine(from: usize): v128 {
  return i16x8.shl(v128.load_ext<u8>(from), FINE_BITS);
}

/** Eight fine samples to memory. */
// @ts-ignore: decorator
@inline
export function storeFine(to: usize, fine: v128): void {
  const rounded = i16x8.shr_s(i16x8.add_sat_s(fine, i16x8.splat(ROUNDING)), FINE_BITS);
  v128.store_lane<u64>(to, i8x16.narrow_i16x8_u(rounded, rounded), 0);
}

/** From `a` to `b` by a share, eight at once. */
// @ts-ignore: decorator
@inline
export function between(a: v128, b: v128, share: v128): v128 {
  return i16x8.add_sat_s(a, i16x8.q15mulr_sat_s(i16x8.sub_sat_s(b, a), share));
}

/**
 * Two rows as one, fine: `share` of the lower one. Writes up to seven samples more than `count`.
 */
export function mixRows(upper: usize, lower: usize, share: i32, count: i32, to: usize): void {
  const part = i16x8.splat(<i16>share);
  for (let i = 0; i < count; i += 8) {
    v128.store(to + 2 * i, between(loadFine(upper + i), loadFine(lower + i), part));
  }
}

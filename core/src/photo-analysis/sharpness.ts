/** How soft a picture is, 0 sharp to 1 soft; null where it was not measured. */
export interface Softness {
  /** Of its sharpest part. */
  readonly blur: number | null;
  /** Of its heads, the large ones counting most; null where there are none. */
  readonly headBlur: number | null;
}

/** Between two faces less is not seen. */
const SEEN_STEP = 0.02;

/**
 * Puts the sharper of two near-identical pictures first: below 0 for the first, 0 where neither is.
 * Faces decide: a sharp background is no merit, and a face that is not found is turned away. It is
 * an order: whatever set is sorted, one picture is the best. O(1).
 */
export function bySharpness(a: Softness, b: Softness): number {
  const faces = ({ headBlur }: Softness): number =>
    headBlur === null ? Number.MAX_VALUE : Math.round(headBlur / SEEN_STEP);
  return faces(a) - faces(b) || (a.blur ?? 1) - (b.blur ?? 1);
}

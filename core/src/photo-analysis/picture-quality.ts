/** How good a picture of its moment is; null where it was not measured. 0 sharp to 1 soft. */
export interface PictureQuality {
  /** Of its sharpest part. */
  readonly blur: number | null;
  /** Of its heads, the large ones counting most; null where there are none. */
  readonly headBlur: number | null;
  /** Share of its heads whose eyes seem open. */
  readonly openEyes: number | null;
}

/** In large groups one pair of eyes more or less is told. */
const OPEN_STEPS = 20;
/** Between two faces less is not seen. */
const SEEN_STEP = 0.02;

/**
 * Puts the better of two near-identical pictures first: below 0 for the first, 0 where neither is.
 * Open eyes decide, then sharp faces: a sharp background is no merit, and a face that is not found
 * is turned away. It is an order: whatever set is sorted, one picture is the best. O(1).
 */
export function byQuality(a: PictureQuality, b: PictureQuality): number {
  const eyes = ({ openEyes }: PictureQuality): number => Math.round(OPEN_STEPS * (openEyes ?? 1));
  const faces = ({ headBlur }: PictureQuality): number =>
    headBlur === null ? Number.MAX_VALUE : Math.round(headBlur / SEEN_STEP);
  const isSeen = Number(b.headBlur !== null) - Number(a.headBlur !== null);
  return isSeen || eyes(b) - eyes(a) || faces(a) - faces(b) || (a.blur ?? 1) - (b.blur ?? 1);
}

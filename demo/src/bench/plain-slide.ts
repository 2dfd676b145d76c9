import type { SlideForFit } from "@humming-tide/core/fit";

/** A slide with no wish of its own. */
export const plainSlide = (id: string, place: number): SlideForFit => ({
  id,
  place,
  passage: 0,
  rating: "keep",
  hasBetterLike: false,
  stays: false,
  hero: false,
  wishedSeconds: null,
  minimumSeconds: null,
  maximumSeconds: null,
  lengthLockSeconds: null,
  landingLockSeconds: null,
  landingLockExact: false,
  materialSeconds: null,
  moment: null,
});
